import { type Figure, isKnown } from '../src/units';
import {
  carryToClaim,
  channelBeyond,
  channelCorrection,
  type ChannelEffect,
  type ConditionedResult,
  type CorrectionFactors,
  figuresOfLog,
  fitJointly,
  LogRefusal,
  readLog,
} from '../src/evidence';
import { holdsOf, type IdentityOfLog, judgeCarried, suspectedSwaps } from '../src/verdicts';
import {
  CHANNELS,
  type Fault,
  TRUST_ACCURACY,
  TRUST_CLAIM,
  type TrustLog,
  trustLot,
} from './trust-bench';

export type Outcome = 'met' | 'notMet' | 'tooClose' | 'held' | 'notComparable' | 'refused';

export interface TrustCount {
  cells: number;
  outcomes: Record<Outcome, number>;
  falseMet: number;
  falseNotMet: number;
}

const bare = (): TrustCount => ({
  cells: 0,
  outcomes: { met: 0, notMet: 0, tooClose: 0, held: 0, notComparable: 0, refused: 0 },
  falseMet: 0,
  falseNotMet: 0,
});

/** What one log gives, by the same functions the lab calls. */
function measure(log: TrustLog) {
  const read = readLog(log.bytes, { ratedAh: TRUST_CLAIM.ratedAh });
  const figures = figuresOfLog(read, {
    cutoffsV: [TRUST_CLAIM.cutoffV],
    accuracy: TRUST_ACCURACY,
    ratedAh: TRUST_CLAIM.ratedAh,
    leadMohm: log.leadMohm ?? undefined,
  });
  const [one] = figures.capacities ?? [];
  return one
    ? {
        ...one,
        figures,
        temperatureC: figures.temperature?.meanC ?? log.ambientC,
        sanity: figures.sanity,
      }
    : null;
}

const MODEL = {
  chemistry: 'LFP' as const,
  envelope: { shape: 'prism' as const, widthMm: 130, thicknessMm: 36, heightMm: 195 },
  massG: null,
  cutoffV: 2.5,
  chargeV: 3.65,
};

interface Known {
  effects: Map<string, ChannelEffect>;
  factors: CorrectionFactors | undefined;
}

/** What control cells say of the channels; results that are held, or only bounds, say nothing. */
function learn(controls: readonly TrustLog[]): Known {
  const results = controls.flatMap((log): ConditionedResult[] => {
    const found = measure(log);
    if (!found || found.capacity.bound !== 'exact') return [];
    return [
      {
        cell: log.cell,
        channel: log.channel,
        value: found.capacity.value,
        model: 'M',
        currentA: found.figures.meanCurrentA,
        temperatureC: found.temperatureC,
      },
    ];
  });
  const { channels, factors } = fitJointly(results);
  return {
    effects: new Map(channels.fit?.channels.map((effect) => [effect.channel, effect])),
    factors: factors.get('M'),
  };
}

/** Control cells of one seed are the same whatever is wrong with the runs. */
const learned = new Map<number, Known>();

function learnedOf(seed: number, controls: readonly TrustLog[]): Known {
  const known = learned.get(seed) ?? learn(controls);
  learned.set(seed, known);
  return known;
}

type Measured = NonNullable<ReturnType<typeof measure>>;

/** Capacity at the claim’s conditions; null where it cannot be compared. */
function carriedOf(log: TrustLog, found: Measured, { effects, factors }: Known) {
  const effect = effects.get(log.channel);
  return carryToClaim(
    found.capacity,
    TRUST_CLAIM,
    {
      meanCurrentA: log.rateUnknown ? null : found.figures.meanCurrentA,
      ratedAh: TRUST_CLAIM.ratedAh,
      meanTemperatureC: found.temperatureC,
      restAfterChargeS: null,
      restBeforeS: found.figures.restBeforeS,
    },
    factors,
    effect ? channelCorrection(effect) : null,
    effect?.repeatability ? { relative: effect.repeatability, source: 'repeats' } : null,
  );
}

/** Rules that hold a result, a second log of its cell among what they look at. */
function ruled(log: TrustLog, found: Measured, known: Known, again?: [TrustLog, Measured]) {
  const [own, other] = [carriedOf(log, found, known), again && carriedOf(...again, known)];
  return holdsOf({
    capacity: found.capacity,
    energyWh: found.energy.value,
    ratedAh: TRUST_CLAIM.ratedAh,
    model: MODEL,
    sanity: found.sanity,
    findings: found.figures.findings.map(({ code }) => code),
    clocksApart: null,
    like:
      own.comparable && other?.comparable ? { own: own.estimate, others: [other.estimate] } : null,
  });
}

function judged(log: TrustLog, found: Measured, known: Known): Outcome {
  const effect = known.effects.get(log.channel);
  if (ruled(log, found, known).length > 0 || (effect && channelBeyond(effect))) return 'held';
  const carried = carriedOf(log, found, known);
  if (!carried.comparable) return 'notComparable';
  const { estimate } = carried;
  if (!isKnown(estimate)) throw new Error('Expected a capacity with its uncertainty.');
  const limits = { low: TRUST_CLAIM.ratedAh, high: null };
  return judgeCarried(estimate, limits, { guardFactor: 1, corrections: carried.corrections })
    .verdict;
}

/** What tells whose a log is; only logs made beside each other are taken for one another. */
function identityOf(run: TrustLog, found: Measured, place: number): IdentityOfLog {
  const exact = (figure: Figure | null | undefined) => (figure?.bound === 'exact' ? figure : null);
  const { r1s, r10s, r30s } = found.figures.resistance;
  return {
    key: run.cell,
    cell: run.cell,
    // A batch on all channels in a day.
    atMs: Math.floor(place / CHANNELS) * 2 * 24 * 3_600_000,
    isCertain: false,
    own: { acMohm: run.acMohm ?? null, massG: null },
    log: {
      after1sMohm: exact(r1s.figure),
      after10sMohm: exact(r10s.figure),
      after30sMohm: exact(r30s.figure),
      capacityAh: exact(found.capacity),
    },
  };
}

/** Counts by what was wrong with the run, and over all. */
export interface TrustTally {
  all: TrustCount;
  sound: TrustCount;
  byFault: Map<string, TrustCount>;
  /** Cells held as swapped, rightly and wrongly. */
  suspected: { right: number; wrong: number };
  /** Swapped cells that were tried with a second log, rightly filed, and how many disagree with it. */
  twice: { cells: number; caught: number };
}

export const newTally = (): TrustTally => ({
  all: bare(),
  sound: bare(),
  byFault: new Map(),
  suspected: { right: 0, wrong: 0 },
  twice: { cells: 0, caught: 0 },
});

export function countInto(
  tally: TrustTally,
  fault: string,
  outcome: Outcome,
  trueAh: number,
): void {
  const own = tally.byFault.get(fault) ?? bare();
  tally.byFault.set(fault, own);
  for (const count of [tally.all, own, ...(fault === 'none' ? [tally.sound] : [])]) {
    count.cells++;
    count.outcomes[outcome]++;
    if (outcome === 'met' && trueAh < TRUST_CLAIM.ratedAh) count.falseMet++;
    if (outcome === 'notMet' && trueAh >= TRUST_CLAIM.ratedAh) count.falseNotMet++;
  }
}

function addCount(to: TrustCount, from: TrustCount): void {
  to.cells += from.cells;
  to.falseMet += from.falseMet;
  to.falseNotMet += from.falseNotMet;
  for (const outcome of Object.keys(from.outcomes) as Outcome[])
    to.outcomes[outcome] += from.outcomes[outcome];
}

/** Adds what other lots gave. */
export function addTally(to: TrustTally, from: TrustTally): void {
  addCount(to.all, from.all);
  addCount(to.sound, from.sound);
  for (const [fault, count] of from.byFault) {
    if (!to.byFault.has(fault)) to.byFault.set(fault, bare());
    addCount(to.byFault.get(fault)!, count);
  }
  to.suspected.right += from.suspected.right;
  to.suspected.wrong += from.suspected.wrong;
  to.twice.cells += from.twice.cells;
  to.twice.caught += from.twice.caught;
}

/** Share of false verdicts among those that were decided. */
export function falseShares({ outcomes, falseMet, falseNotMet }: TrustCount): {
  met: number;
  notMet: number;
} {
  const decided = Math.max(1, outcomes.met + outcomes.notMet);
  return { met: falseMet / decided, notMet: falseNotMet / decided };
}

/** A log that cannot be read gives nothing. */
function measuredOrNot(run: TrustLog): Measured | null {
  try {
    return measure(run);
  } catch (error) {
    if (!(error instanceof LogRefusal)) throw error;
    return null;
  }
}

/** Simulated lots from file to verdict. @param perLot cells of each. @param only one fault in every run. */
export function trustOf(lots: number, perLot: number, seed = 1, only?: Fault): TrustTally {
  const tally = newTally();
  for (let lot = 0; lot < lots; lot++) {
    const { runs, controls } = trustLot(seed + lot, perLot, only);
    const known = learnedOf(seed + lot, controls);
    const found = runs.map(measuredOrNot);
    const suspected = new Set(
      suspectedSwaps(
        runs.flatMap((run, i) => (found[i] ? [identityOf(run, found[i], i)] : [])),
      ).flatMap(({ keys }) => keys),
    );
    for (const [i, run] of runs.entries()) {
      const own = found[i];
      const isSuspected = suspected.has(run.cell);
      const outcome = !own ? 'refused' : isSuspected ? 'held' : judged(run, own, known);
      countInto(tally, run.fault, outcome, run.trueAh);
      if (isSuspected) tally.suspected[run.fault === 'swapped' ? 'right' : 'wrong']++;
    }
    for (let i = 0; i + 1 < runs.length; i++) {
      const [a, b] = [runs[i]!, runs[i + 1]!];
      if (a.fault !== 'swapped' || b.fault !== 'swapped' || !found[i] || !found[i + 1]) continue;
      // What is filed under its neighbour is a second log of this cell.
      const again: [TrustLog, Measured] = [b, found[i + 1]!];
      tally.twice.cells++;
      if (ruled(a, found[i]!, known, again).some(({ rule }) => rule === 'disagrees'))
        tally.twice.caught++;
      i++;
    }
  }
  return tally;
}
