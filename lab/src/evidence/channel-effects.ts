import {
  channelBeyond,
  type ChannelEffect,
  type CorrectionFactors,
  HOUSE_FACTORS,
  type JointFit,
} from '@dusk-tally/core/evidence';
import type { ChannelLookRow, Transaction } from '@dusk-tally/store';
import { type Lab } from '../shared';
import { hashOf } from '../derived';
import { chartsOf, holdOf, jointRepeats, type Repeat } from './repeats';
import { ruleHold } from './rule-hold';

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
    fresh.map(([runId, { index, distance }]) =>
      ruleHold(lab, {
        lotId: repeats[index]!.lotId,
        cellId: repeats[index]!.cellId,
        runId,
        readingId: null,
        rule: 'outOfLine',
        text: `${(100 * Math.abs(distance)).toFixed(1)} % ${distance > 0 ? 'above' : 'below'} what all repeats together say of this cell on this channel.`,
      }),
    ),
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
