import {
  carryToClaim,
  channelBeyond,
  type ChannelEffect,
  channelHold,
  type ControlChart,
  controlChart,
  type CorrectionFactors,
  fitJointly,
  HOUSE_FACTORS,
  type JointFit,
  meanMovingRange,
} from '@dusk-tally/core/evidence';
import { median } from '@dusk-tally/core/statistics';
import type { Figure } from '@dusk-tally/core/units';
import type { ChannelLookRow, RepeatRow, RunSummary, Transaction } from '@dusk-tally/store';
import { type Lab } from '../shared';
import { hashOf } from './figure-rows';
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

/** Repeats of the whole lab with the fit over all of them: channels and models together. */
export async function jointRepeats(lab: Lab, transaction?: Transaction): Promise<JointRepeats> {
  const rows = (await lab.store.meters.repeats(transaction)).map((row) => ({
    ...row,
    summary: JSON.parse(row.summary) as RunSummary,
  }));
  const byCell = new Map<number, typeof rows>();
  for (const row of rows) byCell.set(row.cellId, [...(byCell.get(row.cellId) ?? []), row]);
  const usualOf = new Map([...byCell].map(([cellId, own]) => [cellId, usualConditions(own)]));
  const fit = fitJointly(
    rows.map(({ cell, channelId, value, modelId, summary, ambientC }) => ({
      cell,
      channel: channelId === null ? null : String(channelId),
      value,
      model: String(modelId),
      currentA: summary.meanCurrentA,
      temperatureC: summary.meanTemperatureC ?? ambientC,
    })),
  );
  const repeats = rows.map((row) => {
    const ratedAh = row.value;
    const usual = usualOf.get(row.cellId)!;
    const like = carryToClaim(
      bareCapacity(row.value),
      {
        rateIt: usualRate(usual.currentA, row.summary.meanCurrentA, ratedAh),
        cutoffV: row.cutoffV,
        temperatureC: usual.temperatureC,
      },
      runConditions(row.summary, row.ambientC, ratedAh),
      fit.factors.get(String(row.modelId)),
    );
    const doubt = (like.figure?.standardUncertainty ?? 0) / row.value;
    return { ...row, likeAh: like.figure && doubt <= MOST_DOUBT ? like.figure.value : null };
  });
  return { repeats, fit };
}

/** A capacity without a budget: only what carrying adds is asked for. */
const bareCapacity = (value: number): Figure => ({
  quantity: 'capacity',
  value,
  unit: 'Ah',
  standardUncertainty: 0,
  bound: 'exact',
  method: { name: 'capacity-to-cut-off', version: 1 },
  inputs: [],
  steps: [],
  findings: [],
  budget: [],
});

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

const lookedUpTo = (looks: readonly ChannelLookRow[], channelId: number): number =>
  Math.max(0, ...looks.filter((look) => look.channelId === channelId).map((l) => l.upToRunId));

/** A channel too far off to be corrected waits, until somebody has looked at its runs so far. */
function beyondHold(
  effect: ChannelEffect,
  lookedRunId: number,
  repeats: readonly Repeat[],
): { afterRunId: number; reason: string } | null {
  const reason = channelBeyond(effect);
  if (reason === null) return null;
  const runs = repeats.filter(({ channelId }) => String(channelId) === effect.channel);
  const newest = Math.max(0, ...runs.map(({ runId }) => runId));
  return newest > lookedRunId ? { afterRunId: lookedRunId, reason } : null;
}

/** Results the fit gave no weight are held; those that are in line again are not. @returns their lots. */
async function refreshOutOfLine(
  lab: Lab,
  repeats: readonly Repeat[],
  { outOfLine }: JointFit,
  transaction: Transaction,
): Promise<number[]> {
  const { holds } = lab.store.results;
  const rows = await holds.find({ rule: 'outOfLine' }, { transaction, forUpdate: true });
  const now = new Map(
    outOfLine.map(({ index, distance }) => [repeats[index]!.runId, { index, distance }]),
  );
  const gone = rows.filter((row) => row.liftedAt === null && !now.has(row.runId!));
  if (gone.length > 0) await holds.remove({ id: gone.map(({ id }) => id) }, transaction);
  const known = new Set(rows.map(({ runId }) => runId));
  const fresh = [...now].filter(([runId]) => !known.has(runId));
  await holds.insertMany(
    fresh.map(([runId, { index, distance }]) => ({
      lotId: repeats[index]!.lotId,
      cellId: repeats[index]!.cellId,
      runId,
      readingId: null,
      rule: 'outOfLine' as const,
      text: `${(100 * Math.abs(distance)).toFixed(1)} % ${distance > 0 ? 'above' : 'below'} what all repeats together say of this cell on this channel.`,
      personId: null,
      at: lab.now(),
      liftedAt: null,
      liftedBy: null,
      liftReason: null,
    })),
    transaction,
  );
  return [
    ...gone.map(({ lotId }) => lotId),
    ...fresh.map(([, { index }]) => repeats[index]!.lotId),
  ];
}

/** Shares that moved by less leave results as they stand. */
const WORTH_A_CHANGE = 1e-4;

const sameEffect = (a: ChannelEffect | null, b: ChannelEffect | null): boolean =>
  a === b ||
  (a !== null &&
    b !== null &&
    a.corrects === b.corrects &&
    (a.beyond ?? false) === (b.beyond ?? false) &&
    Math.abs(a.shrunk - b.shrunk) < WORTH_A_CHANGE &&
    Math.abs(a.shrunkError - b.shrunkError) < WORTH_A_CHANGE &&
    Math.abs((a.repeatability ?? 0) - (b.repeatability ?? 0)) < WORTH_A_CHANGE);

/** Works out again what repeats say of rate and temperature. @returns models that changed. */
async function refreshModelFactors(
  lab: Lab,
  fitted: ReadonlyMap<string, CorrectionFactors>,
  transaction: Transaction,
): Promise<number[]> {
  const { modelFactors: table } = lab.store.meters;
  const before = await table.find({}, { transaction, forUpdate: true });
  const known = new Map(before.map((row) => [row.modelId, hashOf(row.factors)]));
  const changed: number[] = [];
  for (const modelId of new Set([...known.keys(), ...[...fitted.keys()].map(Number)])) {
    const factors = fitted.get(String(modelId)) ?? HOUSE_FACTORS;
    const now = hashOf(factors);
    if ((known.get(modelId) ?? hashOf(HOUSE_FACTORS)) === now) continue;
    await table.replaceMany([{ modelId, factors, updatedAt: lab.now() }], transaction);
    changed.push(modelId);
  }
  return changed;
}

/**
 * Works out again what repeats say of channels and models. Unconnected repeats leave no effects.
 * @returns lots whose results stand by what changed.
 */
export async function refreshMeters(lab: Lab, transaction: Transaction): Promise<number[]> {
  const { meters } = lab.store;
  const channels = await meters.channels.find({}, { transaction, columns: ['id'] });
  const before = await meters.effects.find({}, { transaction, forUpdate: true });
  const { repeats, fit: joint } = await jointRepeats(lab, transaction);
  const { fit } = joint.channels;
  const looks = await meters.looks.find({}, { transaction });
  const charts = chartsOf(repeats, looks);
  const known = new Map(before.map((row) => [row.channelId, row]));
  const changed: number[] = [];
  for (const { id } of channels) {
    const effect = fit?.channels.find(({ channel }) => channel === String(id)) ?? null;
    const chart = charts.get(id);
    const hold =
      (chart ? holdOf(chart) : null) ??
      (effect ? beyondHold(effect, lookedUpTo(looks, id), repeats) : null);
    const was = known.get(id);
    if (
      sameEffect(was?.effect ?? null, effect) &&
      (was?.heldAfterRunId ?? null) === (hold?.afterRunId ?? null)
    )
      continue;
    await meters.effects.replaceMany(
      [
        {
          channelId: id,
          effect,
          heldAfterRunId: hold?.afterRunId ?? null,
          heldReason: hold?.reason ?? null,
          updatedAt: lab.now(),
        },
      ],
      transaction,
    );
    changed.push(id);
  }
  const models = await refreshModelFactors(lab, joint.factors, transaction);
  const outOfLine = await refreshOutOfLine(lab, repeats, joint, transaction);
  const lots =
    models.length > 0
      ? await lab.store.lots.find({ modelId: models }, { transaction, columns: ['id'] })
      : [];
  return [
    ...new Set([
      ...(await meters.lotsOf(changed, transaction)),
      ...lots.map((lot) => lot.id),
      ...outOfLine,
    ]),
  ];
}
