import { median, studentQuantile } from '../../statistics';
import { type CorrectionFactors, HOUSE_FACTORS, TEMPERATURE_KNEE_C } from '../factors';
import { type ChannelEffect, stateChannels } from './channel-effects';
import {
  type ConditionedResult,
  connectedParts,
  Design,
  PRIOR,
  type Row,
  type Solution,
  solveOnce,
  standardised,
} from './joint-design';
import {
  bisquare,
  HOUSE_SCATTER,
  huber,
  LEAST_SCALE,
  NARROWED,
  ROBUST_FROM,
  SCALE_ROUNDS,
  type Scatter,
  scatterOf,
} from './robust-weights';

/**
 * A result the fit gave no weight: further from the others than chance has it. Of a cell with two
 * results both are listed.
 */
export interface OutOfLine {
  /** Place in what was given. */
  index: number;
  /** Relative distance from what the others say. */
  distance: number;
}

export type { ConditionedResult } from './joint-design';

/** What each channel reads more or less than the others, as a share. */
export interface ChannelFit {
  channels: ChannelEffect[];
  /** Standard deviation of one result about the fit, as a share. */
  repeatability: number;
  degreesOfFreedom: number;
  cells: number;
  results: number;
}

/** A fit of channels, or what it lacks. */
export type ChannelFitOrReason =
  { fit: ChannelFit; reason?: undefined } | { fit: null; reason: string };

/** Channels and the factors of models, from one fit. */
export interface JointFit {
  channels: ChannelFitOrReason;
  /** By model; only of models with runs that tell something. */
  factors: Map<string, CorrectionFactors>;
  outOfLine: OutOfLine[];
}

const FIRST_ROUNDS = 6;

const MOST_ROUNDS = 200;

/** How much a row’s own unknowns take from its weight. */
const ownWeight = (row: Row, variance: number): number =>
  row.extra > 0 ? variance / (variance + row.extra) : 1;

/** Own variance a row is judged with: of two results of one cell the mean of both. */
function extraOf({ rows, cells }: Design, i: number): number {
  const own = cells[rows[i]!.cell]!;
  return own.length === 2 ? (rows[own[0]!]!.extra + rows[own[1]!]!.extra) / 2 : rows[i]!.extra;
}

/** Rows that count, less what was fitted: cells, channels, and factors the runs tell of. */
function degreesOf(design: Design, weights: readonly number[]): number {
  const rows = weights.filter((weight) => weight > 0).length;
  const cells = design.cells.filter((own) => own.some((i) => weights[i]! > 0)).length;
  const told = design.models.reduce(
    (sum, _, m) => sum + toldOf(design, m).filter(Boolean).length,
    0,
  );
  return rows - cells - (design.channels.length - design.parts.length) - told;
}

/** Whether rate, and temperature on either side of the knee, vary within cells of a model. */
function toldOf(design: Design, model: number): [boolean, boolean, boolean] {
  const spread = (pick: (row: Row) => number, least: number) =>
    design.cells.some((own) => {
      const values = own
        .map((i) => design.rows[i]!)
        .filter((row) => row.model === model)
        .map(pick);
      return values.length > 1 && Math.max(...values) - Math.min(...values) >= least;
    });
  return [
    spread(({ logI }) => logI, Math.log(1.25)),
    spread(({ below }) => below, 2),
    spread(({ above }) => above, 2),
  ];
}

/**
 * Fits ln Q = cell + channel + what the model does with rate and temperature + e over all repeats
 * together (handbook, chapter 3, *Are the meters right?* and *Making results comparable*):
 * iteratively reweighted least squares, bisquare with c = 4.685 on residuals over 1.4826·MAD;
 * factors drawn toward the house values with their u as prior. So a channel that only ever ran at
 * one rate cannot bend the exponent, and a wild result moves nothing.
 * @param options.robust false for plain least squares.
 */
export function fitJointly(
  results: readonly ConditionedResult[],
  { robust = true }: { robust?: boolean } = {},
): JointFit {
  const wrong = results.find(({ value }) => !(value > 0));
  if (wrong)
    return {
      channels: { fit: null, reason: `Expected values above 0; ${wrong.cell} has ${wrong.value}.` },
      factors: new Map(),
      outOfLine: [],
    };
  const parts = connectedParts(results);
  const design = new Design(results, parts);
  if (design.rows.length === 0)
    return {
      channels: refusalOf(results, parts, 0) ?? noRepeats,
      factors: new Map(),
      outOfLine: [],
    };
  let beta: number[] = new Array<number>(design.size).fill(0);
  design.models.forEach((_, m) =>
    PRIOR.forEach(({ mean }, j) => (beta[design.modelColumn(m) + j] = mean)),
  );
  let variance = HOUSE_SCATTER ** 2;
  let weights = design.rows.map((row) => ownWeight(row, variance));
  let scale = HOUSE_SCATTER;
  const isRobust = robust && degreesOf(design, weights) >= ROBUST_FROM;
  let solution = solveOnce(design, beta, weights, variance);
  for (let round = 0; round < MOST_ROUNDS; round++) {
    const before = beta;
    beta = solution.beta;
    const sizes = standardised(design, solution).map((r) => (r === null ? null : Math.abs(r)));
    if (round < SCALE_ROUNDS) {
      scale = Math.max(LEAST_SCALE, 1.4826 * median(sizes.flatMap((r) => r ?? [])));
      variance = scale * scale;
    }
    const weigh = !isRobust ? () => 1 : round < FIRST_ROUNDS ? huber : bisquare;
    weights = design.rows.map(
      (row, i) =>
        ownWeight(row, variance) *
        weigh((sizes[i] ?? 0) / Math.sqrt(variance + extraOf(design, i))),
    );
    solution = solveOnce(design, beta, weights, variance);
    const moved = Math.max(...solution.beta.map((value, i) => Math.abs(value - before[i]!)));
    if (round > SCALE_ROUNDS + 6 && moved < 1e-12) break;
  }
  const degrees = degreesOf(design, weights);
  const counted = design.rows.map((row, i) => (weights[i]! > 0 ? ownWeight(row, variance) : 0));
  const scatter = scatterOf(design, solveOnce(design, solution.beta, counted, variance), counted, {
    degrees,
    scale: isRobust ? scale : null,
  });
  const last = solveOnce(design, solution.beta, counted, scatter.variance);
  return {
    channels: channelsOf(design, solution.beta, last.covariance, { ...scatter, told: degrees }),
    factors: factorsOf(design, solution.beta, counted, scatter),
    outOfLine: outOfLineOf(design, solution, weights),
  };
}

/**
 * Results that ended without weight. Of two results of one cell nothing tells which is the wrong
 * one, whichever the rounds happened to drop: both are out of line with each other.
 */
function outOfLineOf(design: Design, solution: Solution, weights: readonly number[]): OutOfLine[] {
  const dropped = (i: number) => !(weights[i]! > 0);
  const partnerOf = (i: number): number | undefined => {
    const own = design.cells[design.rows[i]!.cell]!;
    return own.length === 2 ? own.find((other) => other !== i) : undefined;
  };
  return design.rows.flatMap((row, i) => {
    const partner = partnerOf(i);
    if (!dropped(i) && (partner === undefined || !dropped(partner))) return [];
    const others = partner === undefined ? 0 : solution.residuals[partner]!;
    return [{ index: row.index, distance: Math.expm1(solution.residuals[i]! - others) }];
  });
}

const noRepeats: ChannelFitOrReason = {
  fit: null,
  reason: 'Expected more repeats than there are cells and channels.',
};

/** Why no fit can tell channels from cells; null where one can. */
function refusalOf(
  results: readonly ConditionedResult[],
  parts: string[][],
  degrees: number,
): ChannelFitOrReason | null {
  const channels = new Set(results.flatMap(({ channel }) => channel ?? []));
  if (channels.size < 2)
    return { fit: null, reason: 'Expected results from at least two channels.' };
  if (parts.length > 1)
    return {
      fit: null,
      reason: `Channels ${parts.map((part) => part.join(', ')).join(' and ')} share no cell, not even through others: run one cell on both sides.`,
    };
  return degrees < 1 ? noRepeats : null;
}

function channelsOf(
  design: Design,
  beta: readonly number[],
  covariance: readonly number[][],
  { variance, degrees, told }: Scatter & { told: number },
): ChannelFitOrReason {
  const { results, channels, parts } = design;
  const refusal = refusalOf(results, parts, told);
  if (refusal) return refusal;
  const k = channels.length;
  const own = channels.map((name) => results.filter(({ channel }) => channel === name));
  return {
    fit: {
      channels: stateChannels(
        channels.map((channel, i) => ({
          channel,
          results: own[i]!.length,
          cells: new Set(own[i]!.map(({ cell }) => cell)).size,
          effect: beta[i]!,
        })),
        covariance.slice(0, k).map((row) => row.slice(0, k)),
        { repeatability: Math.sqrt(variance), degreesOfFreedom: degrees },
      ),
      repeatability: Math.sqrt(variance),
      degreesOfFreedom: told,
      cells: new Set(results.map(({ cell }) => cell)).size,
      results: results.length,
    },
  };
}

/** Factors of each model where its runs narrowed the house value; Student’s factor on the scatter. */
function factorsOf(
  design: Design,
  beta: readonly number[],
  counted: readonly number[],
  { variance, degrees }: Scatter,
): Map<string, CorrectionFactors> {
  const student = studentQuantile(0.975, degrees) / 1.96;
  const wide = solveOnce(design, beta, counted, variance * student * student);
  const factors = new Map<string, CorrectionFactors>();
  design.models.forEach((model, m) => {
    const at = design.modelColumn(m);
    const told = toldOf(design, m);
    const u = [0, 1, 2].map((j) => Math.sqrt(Math.max(0, wide.covariance[at + j]![at + j]!)));
    const isFitted = told.map((is, j) => is && u[j]! < NARROWED * PRIOR[j]!.u);
    if (!isFitted.some(Boolean)) return;
    const rows = design.rows.filter((row, i) => row.model === m && counted[i]! > 0);
    const cells = new Set(rows.map(({ cell }) => cell)).size;
    const source = `fitted to ${rows.length} runs of ${cells} ${cells === 1 ? 'cell' : 'cells'} of this model together with the channels, drawn toward the house value`;
    const [rate, below, above] = isFitted;
    factors.set(model, {
      rate: rate ? { k: 1 + wide.beta[at]!, uK: u[0]!, source } : HOUSE_FACTORS.rate,
      temperature:
        below || above
          ? {
              belowPerK: below ? wide.beta[at + 1]! : PRIOR[1].mean,
              abovePerK: above ? wide.beta[at + 2]! : PRIOR[2].mean,
              uPerK: Math.max(below ? u[1]! : PRIOR[1].u, above ? u[2]! : PRIOR[2].u),
              source: `${source}${below && above ? '' : `, house default ${below ? 'above' : 'below'} ${TEMPERATURE_KNEE_C} °C`}`,
            }
          : HOUSE_FACTORS.temperature,
    });
  });
  return factors;
}

/** One capacity of one cell on one channel. */
export interface ChannelResult {
  cell: string;
  channel: string;
  /** Any positive quantity, Ah for capacity. */
  value: number;
}

/**
 * Fits ln Q = m + cell + channel + e, channels summing to zero, any unbalanced design (handbook,
 * chapter 3, "Are the meters right?"). Cells are eliminated first, so hundreds of them cost no
 * more than the channels do.
 * @returns a reason where no fit can tell channels from cells: fewer than two channels, no
 *   repeat anywhere, or channels that no chain of shared cells connects.
 */
export const fitChannelEffects = (
  results: readonly ChannelResult[],
  options: { robust?: boolean } = {},
): ChannelFitOrReason => fitJointly(results, options).channels;
