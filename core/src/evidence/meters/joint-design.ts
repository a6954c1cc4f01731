import { identity, median, solve } from '../../statistics';
import { HOUSE_FACTORS, TEMPERATURE_KNEE_C } from '../factors';

/** One capacity of one cell, and how it was measured. */
export interface ConditionedResult {
  cell: string;
  /** Null where it is not known; such a result says nothing of channels. */
  channel: string | null;
  /** Any positive quantity, Ah for capacity. */
  value: number;
  /** Cell model, whose factors are fitted; absent where no conditions are known. */
  model?: string;
  currentA?: number | null;
  temperatureC?: number | null;
}

/** What is not known adds so much to a result’s variance: temperature, channel; as shares. */
const UNKNOWN_TEMPERATURE = 0.012;
const UNKNOWN_CHANNEL = 0.01;

const PER_MODEL = 3;

/** One observation: y = ln Q, its channel’s column and its model’s three. */
export interface Row {
  index: number;
  cell: number;
  channel: number | null;
  model: number | null;
  logQ: number;
  logI: number;
  /** Below and above the knee, K. */
  below: number;
  above: number;
  /** Variance on top of the scatter. */
  extra: number;
}

/** The least-squares problem of channels, temperature and rate over repeated cells; cells by their mean. */
export class Design {
  readonly rows: Row[] = [];
  readonly channels: string[];
  readonly models: string[];
  readonly cells: number[][] = [];
  readonly size: number;

  constructor(
    readonly results: readonly ConditionedResult[],
    readonly parts: string[][],
  ) {
    this.channels = [...new Set(results.flatMap(({ channel }) => channel ?? []))].sort();
    this.models = [...new Set(results.flatMap(({ model }) => model ?? []))].sort();
    this.size = this.channels.length + PER_MODEL * this.models.length;
    const channelAt = new Map(this.channels.map((name, i) => [name, i]));
    const modelAt = new Map(this.models.map((name, i) => [name, i]));
    const byCell = groupIndices(results, ({ cell }) => cell);
    for (const own of byCell.values()) {
      // A cell with one result tells nothing.
      if (own.length < 2) continue;
      const known = own.flatMap((i) => results[i]!.temperatureC ?? []);
      const currents = own.flatMap((i) => results[i]!.currentA ?? []);
      const usualC = known.length > 0 ? median(known) : TEMPERATURE_KNEE_C;
      const usualA = currents.length > 0 ? median(currents) : 1;
      const cell = this.cells.length;
      this.cells.push([]);
      for (const index of own) {
        const result = results[index]!;
        const degrees = (result.temperatureC ?? usualC) - TEMPERATURE_KNEE_C;
        const isOpen = result.model !== undefined && (result.temperatureC ?? null) === null;
        const extra =
          (isOpen && own.length > 0 ? UNKNOWN_TEMPERATURE ** 2 : 0) +
          (result.channel === null ? UNKNOWN_CHANNEL ** 2 : 0);
        this.cells[cell]!.push(this.rows.length);
        this.rows.push({
          index,
          cell,
          channel: result.channel === null ? null : channelAt.get(result.channel)!,
          model: result.model === undefined ? null : modelAt.get(result.model)!,
          logQ: Math.log(result.value),
          logI: Math.log((result.currentA ?? usualA) / usualA),
          below: Math.min(degrees, 0),
          above: Math.max(degrees, 0),
          extra,
        });
      }
    }
  }

  /** Column of a model’s first factor. */
  modelColumn(model: number): number {
    return this.channels.length + PER_MODEL * model;
  }

  /** Columns and derivatives of a row at the present factors, and its value without them. */
  terms(row: Row, beta: readonly number[]): { columns: number[]; slopes: number[]; y: number } {
    const columns: number[] = [];
    const slopes: number[] = [];
    let y = row.logQ;
    if (row.channel !== null) {
      columns.push(row.channel);
      slopes.push(1);
    }
    if (row.model !== null) {
      const at = this.modelColumn(row.model);
      const [below, above] = [beta[at + 1]!, beta[at + 2]!];
      // Q is carried by 1 + a·(T_ref − T); its logarithm is fitted where the factor is now.
      const carried = Math.max(0.2, 1 - below * row.below - above * row.above);
      columns.push(at, at + 1, at + 2);
      slopes.push(-row.logI, row.below / carried, row.above / carried);
      y += Math.log(carried) + (below * row.below) / carried + (above * row.above) / carried;
    }
    return { columns, slopes, y };
  }
}

function groupIndices<T>(items: readonly T[], key: (item: T) => string): Map<string, number[]> {
  const groups = new Map<string, number[]>();
  items.forEach((item, i) => {
    const group = groups.get(key(item));
    if (group) group.push(i);
    else groups.set(key(item), [i]);
  });
  return groups;
}

/** Channels in parts that share cells, largest part first. */
export function connectedParts(results: readonly ConditionedResult[]): string[][] {
  const channels = [...new Set(results.flatMap(({ channel }) => channel ?? []))].sort();
  const parent = new Map(channels.map((channel) => [channel, channel]));
  const root = (channel: string): string => {
    const up = parent.get(channel)!;
    return up === channel ? channel : root(up);
  };
  for (const own of groupIndices(results, ({ cell }) => cell).values()) {
    const known = own.flatMap((i) => results[i]!.channel ?? []);
    for (const channel of known) parent.set(root(channel), root(known[0]!));
  }
  const parts = new Map<string, string[]>();
  for (const channel of channels)
    parts.set(root(channel), [...(parts.get(root(channel)) ?? []), channel]);
  return [...parts.values()].sort((a, b) => b.length - a.length);
}

/** House values of one model as a prior: k − 1, below and above the knee, with their u. */
export const PRIOR = [
  { mean: HOUSE_FACTORS.rate.k - 1, u: HOUSE_FACTORS.rate.uK },
  { mean: HOUSE_FACTORS.temperature.belowPerK, u: HOUSE_FACTORS.temperature.uPerK },
  { mean: HOUSE_FACTORS.temperature.abovePerK, u: HOUSE_FACTORS.temperature.uPerK },
] as const;

/** Solution of a design: effects as natural logarithms of a factor, with their covariance. */
export interface Solution {
  beta: number[];
  /** Inverse of the normal matrix with the prior, times the scatter’s variance. */
  covariance: number[][];
  residuals: number[];
  /** How much of its own value each row makes, 0 to 1. */
  leverage: number[];
}

/** Weighted least squares with cells eliminated, channels of a part summing to zero, factors drawn to the house. */
export function solveOnce(
  design: Design,
  beta: readonly number[],
  weights: readonly number[],
  variance: number,
): Solution {
  const { size, channels, models, parts } = design;
  const normal = Array.from({ length: size }, () => new Array<number>(size).fill(0));
  const moments = new Array<number>(size).fill(0);
  const terms = design.rows.map((row) => design.terms(row, beta));
  for (const own of design.cells) {
    const total = own.reduce((sum, i) => sum + weights[i]!, 0);
    if (!(total > 0)) continue;
    const meanOf = new Map<number, number>();
    let meanY = 0;
    for (const i of own) {
      const { columns, slopes, y } = terms[i]!;
      const share = weights[i]! / total;
      meanY += share * y;
      columns.forEach((c, j) => meanOf.set(c, (meanOf.get(c) ?? 0) + share * slopes[j]!));
    }
    const involved = [...meanOf.keys()];
    for (const i of own) {
      if (!(weights[i]! > 0)) continue;
      const { columns, slopes, y } = terms[i]!;
      const x = involved.map((c) => {
        const at = columns.indexOf(c);
        return (at < 0 ? 0 : slopes[at]!) - meanOf.get(c)!;
      });
      for (const [a, ca] of involved.entries()) {
        if (x[a] === 0) continue;
        const weighted = weights[i]! * x[a]!;
        moments[ca]! += weighted * (y - meanY);
        for (const [b, cb] of involved.entries()) normal[ca]![cb]! += weighted * x[b]!;
      }
    }
  }
  const lifted = normal.map((row) => [...row]);
  const at = new Map(channels.map((name, i) => [name, i]));
  for (const part of parts)
    for (const a of part) for (const b of part) lifted[at.get(a)!]![at.get(b)!]! += 1 / part.length;
  models.forEach((_, m) =>
    PRIOR.forEach(({ mean, u }, j) => {
      const column = design.modelColumn(m) + j;
      lifted[column]![column]! += variance / (u * u);
      moments[column]! += (variance * mean) / (u * u);
    }),
  );
  const inverse = solve(lifted, identity(size));
  const known = inverse ?? identity(size).map((row) => row.map(() => 0));
  const found = known.map((row) => row.reduce((sum, v, j) => sum + v * moments[j]!, 0));
  // The lift adds the same to every channel of a part; it is taken off the covariance again.
  const covariance = known.map((row) => row.map((v) => v * variance));
  for (const part of parts) {
    const rows = part.map((name) => at.get(name)!);
    for (const a of rows) for (const b of rows) covariance[a]![b]! -= variance / part.length;
  }
  return {
    beta: found,
    covariance,
    residuals: residualsOf(design, found, weights),
    leverage: leverageOf(design, terms, weights, known),
  };
}

function leverageOf(
  design: Design,
  terms: readonly { columns: number[]; slopes: number[] }[],
  weights: readonly number[],
  inverse: readonly number[][],
): number[] {
  const leverage = new Array<number>(design.rows.length).fill(0);
  for (const own of design.cells) {
    const total = own.reduce((sum, i) => sum + weights[i]!, 0);
    if (!(total > 0)) continue;
    const mean = new Map<number, number>();
    for (const i of own)
      terms[i]!.columns.forEach((c, j) =>
        mean.set(c, (mean.get(c) ?? 0) + (weights[i]! / total) * terms[i]!.slopes[j]!),
      );
    const involved = [...mean.keys()];
    for (const i of own) {
      const { columns, slopes } = terms[i]!;
      const x = involved.map((c) => {
        const at = columns.indexOf(c);
        return (at < 0 ? 0 : slopes[at]!) - mean.get(c)!;
      });
      let form = 0;
      involved.forEach((a, p) =>
        involved.forEach((b, q) => (form += x[p]! * inverse[a]![b]! * x[q]!)),
      );
      leverage[i] = Math.min(1, weights[i]! * (1 / total + form));
    }
  }
  return leverage;
}

/**
 * Residuals over the root of what their own weight leaves of them; null where that is nothing. Of two
 * results of one cell only their difference is told, whatever their weights: each has its √½.
 */
export function standardised(
  { cells }: Pick<Design, 'cells'>,
  { residuals, leverage }: Solution,
): (number | null)[] {
  const sizes = residuals.map((r, i) =>
    leverage[i]! < 1 - 1e-6 ? r / Math.sqrt(1 - leverage[i]!) : null,
  );
  for (const own of cells) {
    if (own.length !== 2) continue;
    const [a, b] = own as [number, number];
    sizes[a] = (residuals[a]! - residuals[b]!) * Math.SQRT1_2;
    sizes[b] = -sizes[a];
  }
  return sizes;
}

function residualsOf(
  design: Design,
  beta: readonly number[],
  weights: readonly number[],
): number[] {
  const residuals = new Array<number>(design.rows.length).fill(0);
  for (const own of design.cells) {
    const left = own.map((i) => {
      const { columns, slopes, y } = design.terms(design.rows[i]!, beta);
      return y - columns.reduce((sum, c, j) => sum + beta[c]! * slopes[j]!, 0);
    });
    const total = own.reduce((sum, i) => sum + weights[i]!, 0);
    const centre =
      total > 0
        ? own.reduce((sum, i, j) => sum + (weights[i]! / total) * left[j]!, 0)
        : median(left);
    own.forEach((i, j) => (residuals[i] = left[j]! - centre));
  }
  return residuals;
}
