import { fUpperTail } from '../../statistics';

/** One result of a gauge study. */
export interface GaugeResult {
  cell: string;
  /** Channel, meter or operator. */
  channel: string;
  value: number;
}

/** One source of scatter in a gauge study. */
export interface VarianceSource {
  name: 'repeatability' | 'reproducibility' | 'measuring' | 'cells' | 'total';
  /** Standard deviation, in the unit of the values. */
  sd: number;
  /** Percent of study variation: sd over the total sd. */
  percent: number;
}

/** One line of the analysis of variance. */
export interface AnovaLine {
  source: 'cells' | 'channels' | 'interaction' | 'repeats';
  degreesOfFreedom: number;
  sumOfSquares: number;
  meanSquare: number;
  f: number | null;
  p: number | null;
}

/** A crossed gauge study by analysis of variance (handbook, chapter 2). */
export interface GaugeStudy {
  cells: number;
  channels: number;
  repeats: number;
  anova: AnovaLine[];
  /** The interaction was not significant (p > 0.25) and went into the repeats. */
  pooled: boolean;
  sources: VarianceSource[];
  /** Distinct categories the gauge can tell: ⌊1.41 · cells' sd / measuring sd⌋, at least 1. */
  categories: number;
  verdict: 'good' | 'borderline' | 'unfit';
}

/** A gauge study, or what it lacks. */
export type GaugeStudyOrReason =
  { study: GaugeStudy; reason?: undefined } | { study: null; reason: string };

/** More categories than this say no more. */
const MOST_CATEGORIES = 999;
/** An interaction with a p above this is pooled with the repeats. */
const POOL_ABOVE = 0.25;

/**
 * Crossed gauge study: every cell on every channel, r times, by two-way analysis of variance
 * with interaction, both factors random (handbook, chapter 3).
 * @returns a reason where the design is not crossed and balanced.
 */
export function gaugeStudy(results: readonly GaugeResult[]): GaugeStudyOrReason {
  const cells = [...new Set(results.map((result) => result.cell))];
  const channels = [...new Set(results.map((result) => result.channel))];
  const [a, b] = [cells.length, channels.length];
  if (a < 2 || b < 2)
    return {
      study: null,
      reason: `Expected at least 2 cells and 2 channels; found ${a} and ${b}.`,
    };
  const byPlace = new Map<string, number[]>();
  for (const { cell, channel, value } of results) {
    const place = JSON.stringify([cell, channel]);
    byPlace.set(place, [...(byPlace.get(place) ?? []), value]);
  }
  const at = (cell: string, channel: string) => byPlace.get(JSON.stringify([cell, channel])) ?? [];
  const r = at(cells[0]!, channels[0]!).length;
  for (const cell of cells)
    for (const channel of channels)
      if (at(cell, channel).length !== r || r < 2)
        return {
          study: null,
          reason: `Expected every cell on every channel at least twice and equally often; ${cell} on ${channel} has ${at(cell, channel).length} results.`,
        };
  const meanOf = (values: readonly number[]) => values.reduce((s, v) => s + v, 0) / values.length;
  const grand = meanOf(results.map((result) => result.value));
  const cellMean = cells.map((cell) => meanOf(channels.flatMap((channel) => at(cell, channel))));
  const channelMean = channels.map((channel) => meanOf(cells.flatMap((cell) => at(cell, channel))));
  let [interaction, repeats] = [0, 0];
  cells.forEach((cell, i) =>
    channels.forEach((channel, j) => {
      const own = at(cell, channel);
      const centre = meanOf(own);
      interaction += r * (centre - cellMean[i]! - channelMean[j]! + grand) ** 2;
      for (const value of own) repeats += (value - centre) ** 2;
    }),
  );
  const squares = {
    cells: b * r * cellMean.reduce((sum, value) => sum + (value - grand) ** 2, 0),
    channels: a * r * channelMean.reduce((sum, value) => sum + (value - grand) ** 2, 0),
    interaction,
    repeats,
  };
  if (!(squares.repeats + squares.interaction > 1e-12 * (1 + grand * grand)))
    return {
      study: null,
      reason:
        'Expected repeats that differ at least in their last digit; all of them are equal, so nothing can be said of repeatability. Log or type more digits.',
    };
  return { study: fromSquares(squares, { a, b, r }) };
}

function fromSquares(
  squares: Record<AnovaLine['source'], number>,
  { a, b, r }: { a: number; b: number; r: number },
): GaugeStudy {
  const df = {
    cells: a - 1,
    channels: b - 1,
    interaction: (a - 1) * (b - 1),
    repeats: a * b * (r - 1),
  };
  const square = (source: AnovaLine['source']) => squares[source] / df[source];
  const interactionF = square('interaction') / square('repeats');
  // Repeats without scatter cannot be the measure of the interaction.
  const interactionP =
    square('repeats') > 0 ? fUpperTail(interactionF, df.interaction, df.repeats) : 0;
  const pooled = !(interactionP <= POOL_ABOVE);
  const pooledSquare = (squares.interaction + squares.repeats) / (df.interaction + df.repeats);
  const error = pooled
    ? { ms: pooledSquare, df: df.interaction + df.repeats }
    : { ms: square('interaction'), df: df.interaction };
  const line = (source: AnovaLine['source'], f: number | null, under: number): AnovaLine => ({
    source,
    degreesOfFreedom: df[source],
    sumOfSquares: squares[source],
    meanSquare: square(source),
    f,
    p: f === null ? null : fUpperTail(f, df[source], under),
  });
  const repeatVariance = pooled ? pooledSquare : square('repeats');
  const above = (value: number) => Math.max(0, value);
  const interactionVariance = pooled ? 0 : above((square('interaction') - square('repeats')) / r);
  const channelVariance = above((square('channels') - error.ms) / (a * r));
  const cellVariance = above((square('cells') - error.ms) / (b * r));
  const reproducibility = channelVariance + interactionVariance;
  const measuring = repeatVariance + reproducibility;
  const total = measuring + cellVariance;
  const source = (name: VarianceSource['name'], variance: number): VarianceSource => ({
    name,
    sd: Math.sqrt(variance),
    percent: total > 0 ? 100 * Math.sqrt(variance / total) : 0,
  });
  const percent = total > 0 ? 100 * Math.sqrt(measuring / total) : 0;
  return {
    cells: a,
    channels: b,
    repeats: r,
    anova: [
      line('cells', square('cells') / error.ms, error.df),
      line('channels', square('channels') / error.ms, error.df),
      line('interaction', square('repeats') > 0 ? interactionF : null, df.repeats),
      line('repeats', null, 0),
    ],
    pooled,
    sources: [
      source('repeatability', repeatVariance),
      source('reproducibility', reproducibility),
      source('measuring', measuring),
      source('cells', cellVariance),
      source('total', total),
    ],
    categories: Math.min(
      MOST_CATEGORIES,
      Math.max(1, Math.floor(Math.SQRT2 * Math.sqrt(cellVariance / measuring))),
    ),
    verdict: percent < 10 ? 'good' : percent <= 30 ? 'borderline' : 'unfit',
  };
}
