import {
  type Chemistry,
  claimPlausibility,
  type ChemistryProfile,
  type Envelope,
} from '../chemistry';
import { compareMeters, type LogSanity } from '../evidence';
import { median } from '../statistics';
import type { Bound, Estimate } from '../units';

/** Why a result may not reach a verdict by itself (handbook, chapter 3). */
export type HoldRule =
  | 'tooMuch'
  | 'understated'
  | 'impossibleVoltage'
  | 'twoCounts'
  | 'outOfNothing'
  | 'disagrees'
  | 'cutOffInHole'
  | 'clock'
  | 'swapped'
  | 'outOfLine'
  | 'channel'
  | 'byHand';

/** Short words for a rule, as a heading. */
export const HOLD_WORDS: Record<HoldRule, string> = {
  tooMuch: 'more than such a cell can hold',
  understated: 'more than anyone would understate',
  impossibleVoltage: 'a voltage that cannot be',
  twoCounts: 'two counts that disagree',
  outOfNothing: 'charge out of nothing',
  disagrees: 'disagrees with the cell’s other results',
  cutOffInHole: 'cut-off crossed where there are no readings',
  clock: 'a clock that is not certain',
  swapped: 'two cells may be swapped',
  outOfLine: 'out of line with all repeats',
  channel: 'its channel waits for a look',
  byHand: 'set aside by a person',
};

/** House limits of the rules, editable by the lab. */
export interface HoldLimits {
  /** Capacity over rated minimum above which nobody would have understated it. */
  understated: number;
  /** Cell voltage outside the model’s limits by so much, V. */
  voltageV: number;
  /** Counter and integral apart by this share. */
  countsApart: number;
  /** Discharge over charge put in from a known empty. */
  outOfNothing: number;
  /** Difference from the cell’s other results as a share, and its E_n. */
  disagrees: number;
  disagreesEn: number;
  /** Clocks apart by this share of the run. */
  clocksApart: number;
}

/** House defaults of what makes a result unbelievable (handbook, chapter 5). */
export const HOUSE_HOLD_LIMITS: HoldLimits = {
  understated: 1.2,
  voltageV: 0.05,
  countsApart: 0.02,
  outOfNothing: 1.02,
  disagrees: 0.05,
  disagreesEn: 1.5,
  clocksApart: 0.01,
};

/** Why a result is not believed until a person looked at it. */
export interface Hold {
  rule: HoldRule;
  /** One sentence with the figures. */
  text: string;
}

/** A capacity at the conditions the cell’s others are at, Ah. */
export type LikeResult = Estimate;

/** What is known beside one result that may be held. */
export interface HoldEvidence {
  /** As measured, Ah, at the claim’s cut-off. */
  capacity: { value: number; bound: Bound };
  energyWh: number | null;
  ratedAh: number | null;
  model: {
    chemistry: Chemistry;
    envelope: Envelope | null;
    massG: number | null;
    profile?: ChemistryProfile;
    cutoffV: number;
    chargeV: number;
  };
  /** Of the log; null for a typed result or an old run. */
  sanity: LogSanity | null;
  /** Codes of the log’s findings. */
  findings: readonly string[];
  /** Clocks of agent and instrument apart over the run, as a share; null where not compared. */
  clocksApart: number | null;
  /** This result and the cell’s other comparable ones. */
  like: { own: LikeResult; others: readonly LikeResult[] } | null;
}

const ah = (value: number) => `${value.toPrecision(4)} Ah`;
const percent = (share: number, digits = 1) => `${(100 * share).toFixed(digits)} %`;

/** All reasons to hold one result; empty where there is none. */
export function holdsOf(evidence: HoldEvidence, limits: HoldLimits = HOUSE_HOLD_LIMITS): Hold[] {
  const holds: Hold[] = [];
  const add = (rule: HoldRule, text: string | null) => text && holds.push({ rule, text });
  add('tooMuch', tooMuch(evidence));
  add('understated', understated(evidence, limits));
  add('impossibleVoltage', impossibleVoltage(evidence, limits));
  const { sanity, findings, clocksApart, capacity } = evidence;
  if (findings.includes('voltage-against-current'))
    add(
      'impossibleVoltage',
      'All current is written in one direction, but for a while the voltage moved the other way.',
    );
  if (sanity?.countsApart && Math.abs(sanity.countsApart) > limits.countsApart)
    add(
      'twoCounts',
      `The instrument’s counter and the integrated current differ by ${percent(Math.abs(sanity.countsApart))}; up to ${percent(limits.countsApart, 0)} is believed.`,
    );
  if (
    sanity?.putInAh &&
    capacity.bound !== 'atMost' &&
    capacity.value > limits.outOfNothing * sanity.putInAh
  )
    add(
      'outOfNothing',
      `${ah(capacity.value)} came out of a cell that was empty before and got ${ah(sanity.putInAh)}.`,
    );
  add('disagrees', disagrees(evidence, limits));
  if (findings.includes('cut-off-in-hole-uncounted'))
    add(
      'cutOffInHole',
      'The voltage fell through the cut-off where there are no readings, and no counter says where.',
    );
  if (findings.includes('time-guessed'))
    add('clock', 'The time column can be read in two ways, and one was guessed.');
  if (findings.includes('clock-set-back'))
    add(
      'clock',
      'The clock was set back while the log ran; how long the jump really took was guessed as one usual interval.',
    );
  if (clocksApart !== null && Math.abs(clocksApart) > limits.clocksApart)
    add(
      'clock',
      `The clocks of the agent and the instrument went apart by ${percent(Math.abs(clocksApart))} over the run.`,
    );
  return holds;
}

/** Above what the chemistry’s ceiling leaves for the cell’s own size or mass. */
function tooMuch({ capacity, model }: HoldEvidence): string | null {
  if (capacity.bound === 'atMost' || !(capacity.value > 0)) return null;
  const { chemistry, envelope, massG, profile } = model;
  const { possible, largestAh } = claimPlausibility({
    ratedAh: capacity.value,
    chemistry,
    envelope,
    massG,
    profile,
  });
  return possible || largestAh === null
    ? null
    : `${ah(capacity.value)} is more than such a cell can hold: at most ${ah(largestAh)} fit its size and mass.`;
}

function understated({ capacity, ratedAh }: HoldEvidence, limits: HoldLimits): string | null {
  if (!ratedAh || capacity.bound === 'atMost') return null;
  const share = capacity.value / ratedAh;
  return share > limits.understated
    ? `${ah(capacity.value)} is ${percent(share, 0)} of the rated ${ah(ratedAh)}: nobody understates by so much.`
    : null;
}

function impossibleVoltage(
  { capacity, energyWh, model, sanity }: HoldEvidence,
  { voltageV }: HoldLimits,
): string | null {
  const { cutoffV, chargeV } = model;
  const meanV = energyWh !== null && capacity.value > 0 ? energyWh / capacity.value : null;
  if (meanV !== null && (meanV < cutoffV || meanV > chargeV))
    return `Its energy over its charge is ${meanV.toFixed(3)} V, outside ${cutoffV} to ${chargeV} V.`;
  if (!sanity) return null;
  if (sanity.lowV < cutoffV - voltageV - 0.001)
    return `For more than 1 % of the time the voltage was below ${sanity.lowV.toFixed(2)} V, under the model’s ${cutoffV} V.`;
  if (sanity.highV > chargeV + voltageV + 0.001)
    return `For more than 1 % of the time the voltage was above ${sanity.highV.toFixed(2)} V, over the model’s ${chargeV} V.`;
  return null;
}

/**
 * Differs from the cell’s other results. With one other both are held; with more, the middle of
 * them decides, in favour of the side it stands on.
 */
function disagrees({ like }: HoldEvidence, limits: HoldLimits): string | null {
  if (!like || like.own.bound !== 'exact') return null;
  const others = like.others.filter(
    ({ bound, standardUncertainty }) => bound === 'exact' && standardUncertainty !== null,
  );
  if (others.length === 0 || like.own.standardUncertainty === null) return null;
  const sorted = [...others].sort((a, b) => a.value - b.value);
  const low = sorted[(sorted.length - 1) >> 1]!;
  const high = sorted[sorted.length >> 1]!;
  const nearer =
    Math.abs(like.own.value - low.value) <= Math.abs(like.own.value - high.value) ? low : high;
  const usual = others.length === 1 ? low.value : nearer.value;
  const apart = like.own.value / usual - 1;
  const [pair] = compareMeters([
    { meter: 'own', value: like.own.value, expanded: 2 * like.own.standardUncertainty },
    { meter: 'others', value: usual, expanded: 2 * nearer.standardUncertainty! },
  ]);
  if (Math.abs(apart) <= limits.disagrees || !(pair!.en > limits.disagreesEn)) return null;
  const middle = median(others.map(({ value }) => value));
  return `${ah(like.own.value)} at like conditions, where the cell’s other ${others.length === 1 ? 'result is' : `${others.length} results are about`} ${ah(middle)}: ${percent(Math.abs(apart))} apart, E_n ${pair!.en.toFixed(1)}.`;
}
