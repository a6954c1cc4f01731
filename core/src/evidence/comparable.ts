import {
  budgetKind,
  type BudgetKind,
  budgetPart,
  combineBudget,
  type Estimate,
  type Figure,
  rootSumOfSquares,
  scaledPart,
} from '../units';
import { type CorrectionFactors, HOUSE_FACTORS, TEMPERATURE_KNEE_C } from './factors';
import type { ChannelCorrection } from './meters/channel-effects';
import { MOST_KELVIN, type RoomRange, unrecordedTemperature } from './unrecorded-temperature';

export { type CorrectionFactors, HOUSE_FACTORS, TEMPERATURE_KNEE_C } from './factors';

/** Conditions a capacity claim is made under; null where neither claim nor model says. */
export interface CapacityConditions {
  rateIt: number | null;
  cutoffV: number | null;
  temperatureC: number | null;
}

/** How a run was done, in the same terms. */
export interface RunConditions {
  meanCurrentA: number | null;
  ratedAh: number;
  meanTemperatureC: number | null;
  /** Rest between the end of charge and load-on, s; null when the log does not hold the charge. */
  restAfterChargeS: number | null;
  /** Rest the log shows before load-on, s; null without a discharge. */
  restBeforeS: number | null;
  /** Coldest and warmest the lab keeps its room, °C, for what nobody recorded; absent where not kept. */
  roomC?: RoomRange | null;
}

/** Coldest a result is carried from, °C, and furthest by rate (handbook, chapter 3). */
const COLDEST_C = 10;
const MOST_RATE_FACTOR = 4;
/** Rest after charge the careful test waits (handbook, chapter 2), s. */
const REST_AFTER_CHARGE_S = 3600;
const MISSING_REST = 0.005;
/** Changes of the factor smaller than this are not worth a line. */
const NO_CHANGE = 5e-5;

/** One step from a result's own conditions to those of the claim, as a factor with its uncertainty. */
export interface Correction {
  kind: Extract<
    BudgetKind,
    'temperature' | 'rate' | 'missingRest' | 'channelBias' | 'repeatability' | 'stateOfCharge'
  >;
  /** The result is multiplied by it. */
  factor: number;
  /** Relative standard uncertainty it adds. */
  relativeUncertainty: number;
  text: string;
  /** What nobody recorded may have taken off at worst, as a share: a shortfall it explains is none. */
  mayHaveTaken?: number;
}

/** Kept with every capacity carried to claimed conditions. */
export const AT_CLAIM_METHOD = { name: 'capacity-at-claimed-conditions', version: 3 };

/** How far one run of a cell scatters about another, from repeats or control cells. */
export interface Repeatability {
  /** Standard deviation as a share. */
  relative: number;
  source: string;
}

/** A result carried to the claim’s conditions, or why it cannot be. */
export type Comparable<E extends Estimate = Estimate> =
  | { comparable: true; estimate: E; corrections: Correction[]; remarks: string[] }
  | { comparable: false; estimate: null; reasons: string[]; remarks: string[] };

/** Change of capacity from `fromC` to `toC` as a share, through the knee. */
function temperatureShare(
  { belowPerK, abovePerK }: Pick<CorrectionFactors['temperature'], 'belowPerK' | 'abovePerK'>,
  fromC: number,
  toC: number,
): number {
  const below = (c: number) => Math.min(c, TEMPERATURE_KNEE_C);
  const above = (c: number) => Math.max(c, TEMPERATURE_KNEE_C);
  return belowPerK * (below(toC) - below(fromC)) + abovePerK * (above(toC) - above(fromC));
}

const percent = (share: number, digits = 2) => `${(100 * share).toFixed(digits)} %`;
const signed = (factor: number) => `${factor >= 1 ? '+' : '−'}${percent(Math.abs(factor - 1))}`;

/**
 * Carries a capacity to the conditions of its claim: temperature, rate, a rest that was skipped,
 * and what is known of the channel (handbook, chapter 3). An uncertainty that is not known stays
 * unknown.
 * @param raw a capacity at the claim’s cut-off, Ah.
 */
export function carryToClaim(
  raw: Estimate,
  claim: CapacityConditions,
  run: RunConditions,
  factors: CorrectionFactors = HOUSE_FACTORS,
  channel: ChannelCorrection | null = null,
  repeatability: Repeatability | null = null,
): Comparable {
  const reasons: string[] = [];
  const remarks: string[] = [];
  const corrections: Correction[] = [];
  const add = (correction: Correction | string | null) => {
    if (typeof correction === 'string') reasons.push(correction);
    else if (correction) corrections.push(correction);
  };
  if (channel)
    add({
      kind: 'channelBias',
      factor: 1 / channel.factor,
      relativeUncertainty: channel.relativeUncertainty,
      text: channel.text,
    });
  if (repeatability && repeatability.relative > 0)
    add({
      kind: 'repeatability',
      factor: 1,
      relativeUncertainty: repeatability.relative,
      text: `Runs of one cell scatter by ${percent(repeatability.relative)} (${repeatability.source}); added to the uncertainty.`,
    });
  add(temperatureCorrection(claim, run, factors));
  // A channel that reads high made the current look high too.
  const currentA = run.meanCurrentA === null ? null : run.meanCurrentA / (channel?.factor ?? 1);
  add(rateCorrection(claim, { ...run, meanCurrentA: currentA }, factors));
  add(restCorrection(run));
  if (
    run.restAfterChargeS === null &&
    run.restBeforeS !== null &&
    run.restBeforeS < REST_AFTER_CHARGE_S
  )
    remarks.push(
      `The log shows ${Math.floor(run.restBeforeS / 60)} min of rest before the load; whether the cell rested an hour after charge is not recorded in it.`,
    );
  if (reasons.length > 0) return { comparable: false, estimate: null, reasons, remarks };
  return { comparable: true, estimate: corrected(raw, corrections), corrections, remarks };
}

function temperatureCorrection(
  claim: CapacityConditions,
  run: RunConditions,
  { temperature }: CorrectionFactors,
): Correction | string | null {
  const [to, from] = [claim.temperatureC, run.meanTemperatureC];
  if (from === null) {
    const { kelvin, belowK, words } = unrecordedTemperature(to ?? TEMPERATURE_KNEE_C, run.roomC);
    const relativeUncertainty = (kelvin * temperature.belowPerK) / Math.sqrt(3);
    return {
      kind: 'temperature',
      factor: 1,
      relativeUncertainty,
      // A room as cold as the lab’s can be, or as a result could be carried from at all.
      mayHaveTaken: temperature.belowPerK * belowK,
      text: `Nobody recorded the temperature: nothing is corrected, ${percent(relativeUncertainty, 1)} is added (${words}${run.roomC ? ',' : ' at'} ${percent(temperature.belowPerK, 2)}/K).`,
    };
  }
  if (to === null) return null;
  const kelvin = to - from;
  if (Math.abs(kelvin) > MOST_KELVIN || from < COLDEST_C)
    return `Measured at ${from.toFixed(1)} °C, claimed at ${to} °C: a capacity is carried over at most ${MOST_KELVIN} K, and not from below ${COLDEST_C} °C.`;
  const factor = 1 + temperatureShare(temperature, from, to);
  const relativeUncertainty = temperature.uPerK * Math.abs(kelvin);
  if (Math.abs(factor - 1) < NO_CHANGE && relativeUncertainty < NO_CHANGE) return null;
  return {
    kind: 'temperature',
    factor,
    relativeUncertainty,
    text: `From ${from.toFixed(1)} °C to ${to} °C: ${signed(factor)} at ${percent(temperature.belowPerK, 2)}/K below ${TEMPERATURE_KNEE_C} °C and ${percent(temperature.abovePerK, 2)}/K above (${temperature.source}).`,
  };
}

function rateCorrection(
  claim: CapacityConditions,
  run: RunConditions,
  { rate }: CorrectionFactors,
): Correction | string | null {
  if (claim.rateIt === null) return null;
  if (run.meanCurrentA === null || !(run.meanCurrentA > 0))
    return `Claimed at ${claim.rateIt} It; the current it was discharged at is not recorded. Type what the tester was set to, as Current as shown beside the capacity.`;
  const rateIt = run.meanCurrentA / run.ratedAh;
  const ratio = rateIt / claim.rateIt;
  const shown = `${rateIt.toPrecision(2)} It`;
  if (ratio > MOST_RATE_FACTOR || ratio < 1 / MOST_RATE_FACTOR)
    return `Measured at ${shown}, claimed at ${claim.rateIt} It: a capacity is carried over a factor of at most ${MOST_RATE_FACTOR}.`;
  const factor = ratio ** (rate.k - 1);
  const relativeUncertainty = Math.abs(Math.log(ratio)) * rate.uK;
  if (Math.abs(factor - 1) < NO_CHANGE && relativeUncertainty < NO_CHANGE) return null;
  return {
    kind: 'rate',
    factor,
    relativeUncertainty,
    text: `From ${shown} to ${claim.rateIt} It: ${signed(factor)} with k = ${rate.k.toFixed(3)} ± ${(2 * rate.uK).toFixed(3)} (${rate.source}).`,
  };
}

function restCorrection({ restAfterChargeS }: RunConditions): Correction | null {
  if (restAfterChargeS === null || restAfterChargeS >= REST_AFTER_CHARGE_S) return null;
  return {
    kind: 'missingRest',
    factor: 1,
    relativeUncertainty: MISSING_REST,
    text: `Loaded ${Math.round(restAfterChargeS / 60)} min after charge instead of an hour: nothing is corrected, ${percent(MISSING_REST, 1)} is added.`,
  };
}

const factorOf = (corrections: readonly Correction[]): number =>
  corrections.reduce((product, correction) => product * correction.factor, 1);

function corrected(raw: Estimate, corrections: readonly Correction[]): Estimate {
  const factor = factorOf(corrections);
  const value = raw.value * factor;
  return {
    value,
    standardUncertainty:
      raw.standardUncertainty === null
        ? null
        : rootSumOfSquares([
            raw.standardUncertainty * factor,
            ...corrections.map((correction) => correction.relativeUncertainty * value),
          ]),
    bound: raw.bound,
  };
}

/** A measured capacity at the claim’s conditions, with its whole budget and what was done. */
export function figureAtClaim(
  raw: Figure,
  claim: CapacityConditions,
  corrections: readonly Correction[],
): Figure {
  const factor = factorOf(corrections);
  const value = raw.value * factor;
  const conditions = [
    claim.rateIt === null ? null : `${claim.rateIt} It`,
    claim.cutoffV === null ? null : `down to ${claim.cutoffV} V`,
    claim.temperatureC === null ? null : `${claim.temperatureC} °C`,
  ].filter((text) => text !== null);
  return {
    ...raw,
    quantity: 'capacityAtClaim',
    value,
    method: AT_CLAIM_METHOD,
    inputs: [
      { name: 'raw capacity', value: raw.value, unit: raw.unit },
      ...corrections.map(({ kind, factor: by }) => ({
        name: `factor for ${budgetKind(kind).words}`,
        value: by,
      })),
    ],
    steps: [
      `Measured: ${raw.value.toPrecision(6)} ${raw.unit}.`,
      ...corrections.map((correction) => correction.text),
      `At the claim’s conditions${conditions.length > 0 ? ` (${conditions.join(', ')})` : ''}: ${value.toPrecision(6)} ${raw.unit}.`,
    ],
    ...combineBudget([
      ...raw.budget.map((part) => scaledPart(part, factor)),
      ...corrections.map(({ kind, relativeUncertainty }) =>
        budgetPart(
          kind,
          relativeUncertainty * value,
          `${percent(relativeUncertainty)} of ${value.toPrecision(5)} ${raw.unit}`,
        ),
      ),
    ]),
  };
}

/** Like `carryToClaim`, for a figure with its budget. */
export function carryFigureToClaim(
  raw: Figure,
  claim: CapacityConditions,
  ...known: [
    run: RunConditions,
    factors?: CorrectionFactors,
    channel?: ChannelCorrection | null,
    repeatability?: Repeatability | null,
  ]
): Comparable<Figure> {
  const carried = carryToClaim(raw, claim, ...known);
  if (!carried.comparable) return carried;
  return { ...carried, estimate: figureAtClaim(raw, claim, carried.corrections) };
}
