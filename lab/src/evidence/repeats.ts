import {
  carryToClaim,
  channelHold,
  type ControlChart,
  controlChart,
  type CorrectionFactors,
  fitJointly,
  type JointFit,
  meanMovingRange,
} from '@dusk-tally/core/evidence';
import { median } from '@dusk-tally/core/statistics';
import type { ChannelLookRow, RepeatRow, RunSummary, Transaction } from '@dusk-tally/store';
import { type Lab } from '../shared';
import { conditionedCells, roundsBefore } from './conditioned';
import { runConditions } from './run-conditions';

/** A repeat with its capacity brought to the conditions of the others of its cell. */
export interface Repeat extends Omit<RepeatRow, 'summary'> {
  summary: RunSummary;
  /**
   * At the cell’s own usual rate and temperature, Ah; null where it was so far from them that it
   * would say more of the corrections than of the channel.
   */
  likeAh: number | null;
}

/** A repeat that can be held beside the others of its cell. */
type Like = Repeat & { likeAh: number };
export const isLike = (row: Repeat): row is Like => row.likeAh !== null;

/** So many first points of a channel’s chart set its limits. */
const BASELINE_POINTS = 8;

/** Repeats of the whole lab, and what they say together of channels and models. */
export interface JointRepeats {
  repeats: Repeat[];
  fit: JointFit;
}

/** Repeats of the whole lab, oldest first, with like conditions within each cell. */
export const repeatsOf = async (lab: Lab, transaction?: Transaction): Promise<Repeat[]> =>
  (await jointRepeats(lab, transaction)).repeats;

/**
 * Repeats of the whole lab with the fit over them: channels and models together. Results of a
 * channel since the last good point of its control chart are no part of the fit until someone
 * looked; the chart itself needs no fit but for what rate and temperature do.
 */
export async function jointRepeats(lab: Lab, transaction?: Transaction): Promise<JointRepeats> {
  const conditioned = await conditionedCells(lab, null, transaction);
  const rows = (await lab.store.meters.repeats(transaction)).map((row) => ({
    ...row,
    summary: JSON.parse(row.summary) as RunSummary,
    as: `${row.cellId}/${roundsBefore(conditioned, row.cellId, row.at)}`,
  }));
  const looks = await lab.store.meters.looks.find({}, { transaction });
  const all = fitRows(rows);
  const heldAfter = new Map(
    [...chartsOf(likeRepeats(rows, all.factors), looks)].map(([channelId, chart]) => [
      channelId,
      holdOf(chart)?.afterRunId ?? Infinity,
    ]),
  );
  const isKept = (row: SummedRow) =>
    row.channelId === null || row.runId <= (heldAfter.get(row.channelId) ?? Infinity);
  const kept = rows.flatMap((row, index) => (isKept(row) ? [index] : []));
  if (kept.length === rows.length) return { repeats: likeRepeats(rows, all.factors), fit: all };
  const fit = fitRows(kept.map((index) => rows[index]!));
  return {
    repeats: likeRepeats(rows, fit.factors),
    fit: {
      ...fit,
      outOfLine: fit.outOfLine.map((one) => ({ ...one, index: kept[one.index]! })),
    },
  };
}

/** A repeat with what it repeats: its cell, as it is since it was conditioned last. */
type SummedRow = Omit<RepeatRow, 'summary'> & { summary: RunSummary; as: string };

const fitRows = (rows: readonly SummedRow[]): JointFit =>
  fitJointly(
    rows.map(({ as, channelId, value, modelId, summary, ambientC }) => ({
      cell: as,
      channel: channelId === null ? null : String(channelId),
      value,
      model: String(modelId),
      currentA: summary.meanCurrentA,
      temperatureC: summary.meanTemperatureC ?? ambientC,
    })),
  );

/** Repeats brought to the usual conditions of their cell. */
function likeRepeats(
  rows: readonly SummedRow[],
  factors: ReadonlyMap<string, CorrectionFactors>,
): Repeat[] {
  const byCell = new Map<string, SummedRow[]>();
  for (const row of rows) {
    const own = byCell.get(row.as);
    if (own) own.push(row);
    else byCell.set(row.as, [row]);
  }
  const usualOf = new Map([...byCell].map(([as, own]) => [as, usualConditions(own)]));
  return rows.map((row) => {
    const ratedAh = row.value;
    const usual = usualOf.get(row.as)!;
    const like = carryToClaim(
      // Only what carrying adds is asked for: the value itself is taken as it stands.
      { value: row.value, standardUncertainty: 0, bound: 'exact' },
      {
        rateIt: usualRate(usual.currentA, row.summary.meanCurrentA, ratedAh),
        cutoffV: row.cutoffV,
        temperatureC: usual.temperatureC,
      },
      runConditions(row.summary, row.ambientC, ratedAh),
      factors.get(String(row.modelId)),
    );
    const doubt = like.estimate?.standardUncertainty ?? null;
    return {
      ...row,
      likeAh: doubt !== null && doubt <= MOST_DOUBT * row.value ? like.estimate!.value : null,
    };
  });
}

/** Most relative standard uncertainty a repeat may have from being carried. */
const MOST_DOUBT = 0.005;

/** The current most of a cell’s runs had, the lowest of several such, and their middle temperature. */
function usualConditions(own: readonly { summary: RunSummary; ambientC: number | null }[]): {
  currentA: number | undefined;
  temperatureC: number | null;
} {
  const currents = own.flatMap(({ summary }) => summary.meanCurrentA ?? []).sort((a, b) => a - b);
  const near = (a: number) => currents.filter((b) => Math.abs(b / a - 1) < SAME_RATE).length;
  let currentA = currents[0];
  for (const current of currents) if (near(current) > near(currentA!)) currentA = current;
  const temperatures = own.flatMap(
    ({ summary, ambientC }) => summary.meanTemperatureC ?? ambientC ?? [],
  );
  return { currentA, temperatureC: temperatures.length > 0 ? median(temperatures) : null };
}

/** Rates closer than this are one rate: what is left may be the channel’s own reading. */
const SAME_RATE = 0.08;

/** The rate a repeat is carried to, It; null where it ran at the cell’s usual one already. */
function usualRate(usual: number | undefined, currentA: number | null, ratedAh: number) {
  if (!usual || !currentA || Math.abs(currentA / usual - 1) < SAME_RATE) return null;
  return usual / ratedAh;
}

/** A control chart of a channel with the runs behind its points. */
export interface ChannelChart {
  chart: ControlChart;
  /** Per cent from the control cell’s own mean, oldest first. */
  values: number[];
  points: { runId: number; cell: string; at: Date }[];
  looks: ChannelLookRow[];
}

/** Charts of all channels that control cells ran on, by channel. */
export function chartsOf(
  repeats: readonly Repeat[],
  looks: readonly ChannelLookRow[],
): Map<number, ChannelChart> {
  const controls = repeats.filter(isLike).filter((row) => row.isControl && row.channelId !== null);
  // The channel's own first runs of a control cell are its reference: a bias that was there from
  // the start is the fit's to find, the chart's is what changes.
  const reference = new Map<string, number[]>();
  const keyOf = (row: Like) => `${row.channelId}/${row.cellId}`;
  for (const row of controls) {
    const own = reference.get(keyOf(row)) ?? [];
    if (own.length < BASELINE_POINTS) own.push(row.likeAh);
    reference.set(keyOf(row), own);
  }
  const mean = (values: number[]) => values.reduce((sum, value) => sum + value, 0) / values.length;
  const series = [...new Set(controls.map((row) => row.channelId!))].map((channelId) => {
    const own = controls.filter((row) => row.channelId === channelId);
    const values = own.map((row) => 100 * (row.likeAh / mean(reference.get(keyOf(row))!) - 1));
    return { channelId, own, values };
  });
  // Limits from a few points are themselves a chance: what all channels scatter in the middle of
  // them is the least any of them is given.
  const scatter = series.flatMap(
    ({ values }) => meanMovingRange(values.slice(0, BASELINE_POINTS)) ?? [],
  );
  const leastMeanRange = scatter.length > 0 ? median(scatter) : 0;
  const charts = new Map<number, ChannelChart>();
  for (const { channelId, own, values } of series) {
    const chart = controlChart(values, { baseline: BASELINE_POINTS, leastMeanRange });
    if (!chart) continue;
    charts.set(channelId, {
      chart,
      values,
      points: own.map(({ runId, cell, at }) => ({ runId, cell, at })),
      looks: looks.filter((look) => look.channelId === channelId),
    });
  }
  return charts;
}

/** The run after which results of a channel wait, and why; null while it is in control. */
export function holdOf(chart: ChannelChart): { afterRunId: number; reason: string } | null {
  const looked = Math.max(0, ...chart.looks.map((look) => look.upToRunId));
  const lookedAt = chart.points.findLastIndex((point) => point.runId <= looked);
  const hold = channelHold(chart.chart, lookedAt);
  if (!hold) return null;
  const bad = chart.points[hold.firstBad.index]!;
  return {
    afterRunId: Math.max(looked, hold.lastGood < 0 ? 0 : chart.points[hold.lastGood]!.runId),
    reason: `Its control chart: ${bad.cell} of ${bad.at.toISOString().slice(0, 10)} is ${hold.firstBad.text}.`,
  };
}
