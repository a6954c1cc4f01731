import { charges, discharges, type ProgramStep, type RecipePurpose } from './recipe';
import type { ExpectedStep } from './expected-course';
import type { ChannelLimits } from './reachable-current';
import { unattendedReasons } from './unattended';

/**
 * What a person answers before a run (handbook, chapter 2, "Before a run may start"): of every cell
 * anew, once for like cells on one channel, or once for a set of like cells.
 */
export const START_QUESTIONS = {
  polarity: { words: 'Polarity is right: plus to plus, checked with a meter', askedFor: 'cell' },
  cutoffOnInstrument: {
    words: 'The cut-off is set on the instrument itself',
    askedFor: 'channel',
  },
  countersZero: { words: 'Counters read zero', askedFor: 'cell' },
  leadsTight: {
    words: 'Leads are tight; sense leads sit on the cell’s own terminals',
    askedFor: 'cell',
  },
  currentFromZero: { words: 'The current starts from zero', askedFor: 'channel' },
  fuseInLine: { words: 'A fuse is in line', askedFor: 'channel' },
  nothingFlammable: { words: 'Nothing flammable is under it or near', askedFor: 'set' },
} as const satisfies Record<string, { words: string; askedFor: 'cell' | 'channel' | 'set' }>;
/** Name of a question asked before a run starts. */
export type StartQuestion = keyof typeof START_QUESTIONS;

/** What the lab knows of a cell, channel and room that are to make a run. */
export interface StartFacts {
  program: readonly ProgramStep[];
  purpose: RecipePurpose;
  attendedOnly: boolean;
  limits: ChannelLimits;
  /** Inspection says nothing against it: null where it was not looked at. */
  inspectionClear: boolean | null;
  /** Newest voltage read, V. */
  voltageV: number | null;
  /** Lowest and highest voltage a run may begin with, V. */
  lowV: number;
  highV: number;
  ambientC: number | null;
  /** Temperature the claim is stated at, °C. */
  claimTemperatureC: number | null;
  /** Counter of the instrument at the start, Ah; null where it has none or was not read. */
  counterAh: number | null;
  /** How it is expected to go on the channel. */
  course: readonly ExpectedStep[];
  /** Day until which it is to stand on the shelf unread, as it is told; null where it does not. */
  restsUntil: string | null;
  /** It was charged here before. */
  isKnown: boolean;
  /** How long somebody is there without a break from now on, s; 0 where nobody is. */
  attendedForS: number;
  /** Driven by an agent, which sets cut-off and current by itself. */
  driven: boolean;
}

/** What speaks against starting a run. */
export interface StartReason {
  code: string;
  text: string;
  /** `stop` keeps the run from starting; `say` is kept with it. */
  weight: 'stop' | 'say';
}

/** Room a claim check may be made in, °C, and how far from the claim’s temperature, K. */
const ROOM_C: readonly [number, number] = [10, 30];
const FROM_CLAIM_K = 5;
/** No charge outside these, °C (handbook, Safety). */
const CHARGE_C: readonly [number, number] = [0, 45];
/** A counter further from zero than this was not zeroed, Ah. */
const COUNTER_ZERO_AH = 0.005;

/** Reasons not to start that the app finds by itself. */
export function startReasons(facts: StartFacts): StartReason[] {
  const { program, limits, voltageV, ambientC, counterAh } = facts;
  const reasons: StartReason[] = [];
  const add = (code: string, text: string, weight: StartReason['weight'] = 'stop') =>
    reasons.push({ code, text, weight });
  if (facts.inspectionClear === false)
    add('inspection', 'Its inspection is not clear: see its findings.');
  if (facts.inspectionClear === null) add('notInspected', 'It was not inspected yet.');
  if (voltageV === null) add('noVoltage', 'No voltage of it was read yet.');
  else if (voltageV < facts.lowV || voltageV > facts.highV)
    add(
      'voltage',
      `It reads ${voltageV.toFixed(3)} V; the recipe begins between ${facts.lowV.toFixed(2)} and ${facts.highV.toFixed(2)} V.`,
    );
  if (charges(program) && !limits.canCharge)
    add('cannotCharge', 'The recipe charges; this channel cannot.');
  if (discharges(program) && !limits.canDischarge)
    add('cannotDischarge', 'The recipe discharges; this channel cannot.');
  if (ambientC === null) {
    if (charges(program)) add('noAmbient', 'The room’s temperature is needed before a charge.');
    else
      add(
        'noAmbient',
        'The room’s temperature was not read: the result cannot be compared with the claim.',
        'say',
      );
  } else {
    if (charges(program) && (ambientC < CHARGE_C[0] || ambientC > CHARGE_C[1]))
      add(
        'ambient',
        `Lithium cells are charged only between ${CHARGE_C[0]} and ${CHARGE_C[1]} °C; the room has ${ambientC.toFixed(1)} °C.`,
      );
    else if (facts.purpose === 'claimCheck' && (ambientC < ROOM_C[0] || ambientC > ROOM_C[1]))
      add(
        'ambient',
        `A claim check needs a room of ${ROOM_C[0]} to ${ROOM_C[1]} °C; it has ${ambientC.toFixed(1)} °C.`,
      );
    else if (
      facts.claimTemperatureC !== null &&
      Math.abs(ambientC - facts.claimTemperatureC) > FROM_CLAIM_K
    )
      add(
        'claimTemperature',
        `The claim is stated at ${facts.claimTemperatureC} °C; the room has ${ambientC.toFixed(1)} °C. The result will be corrected or not compared.`,
        'say',
      );
  }
  if (counterAh !== null && Math.abs(counterAh) > COUNTER_ZERO_AH)
    add(
      'counter',
      `The counter starts at ${counterAh.toFixed(2)} Ah. It will be subtracted and the run marked.`,
      'say',
    );
  if (facts.restsUntil !== null)
    add(
      'resting',
      `It stands on the shelf, to be read on ${facts.restsUntil}. Starting now ends its rest: of what it loses nothing more is told.`,
      'say',
    );
  for (const { code, text } of unattendedReasons(facts)) add(code, text);
  return reasons;
}

/**
 * Questions a person answers for a run; in a set of like cells those not asked of every cell are
 * answered once.
 */
export function startQuestions(
  facts: Pick<StartFacts, 'program' | 'driven' | 'limits'>,
): StartQuestion[] {
  return (Object.keys(START_QUESTIONS) as StartQuestion[]).filter((question) => {
    if (question === 'cutoffOnInstrument') return discharges(facts.program) && !facts.driven;
    if (question === 'currentFromZero') return !facts.driven;
    if (question === 'countersZero') return !facts.driven;
    if (question === 'fuseInLine') return facts.limits.fuseA !== null;
    return true;
  });
}

/** An answer given at an earlier start. */
export interface EarlierAnswer {
  question: string;
  /** Given then, not carried over from before. */
  answeredFor: 'cell' | 'set';
  channelId: number | null;
}

/** Questions that answers of like cells settle, for a start on a channel. */
export function answeredBefore(
  questions: readonly StartQuestion[],
  earlier: readonly EarlierAnswer[],
  channelId: number,
): StartQuestion[] {
  return questions.filter((question) => {
    const { askedFor } = START_QUESTIONS[question];
    return (
      askedFor !== 'cell' &&
      earlier.some(
        (one) =>
          one.question === question &&
          one.answeredFor === 'cell' &&
          (askedFor === 'set' || one.channelId === channelId),
      )
    );
  });
}
