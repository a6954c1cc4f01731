import { type Clamping, clampingDifference } from '@dusk-tally/core/chemistry';
import {
  AT_CLAIM_METHOD,
  carryToClaim,
  figureAtClaim,
  channelCorrection,
  type ChannelEffect,
  type Comparable,
  type Correction,
  type CorrectionFactors,
  type RoomRange,
} from '@dusk-tally/core/evidence';
import type { Estimate } from '@dusk-tally/core/units';
import type { FigureRow, RunRow, SettingsRow, Transaction } from '@dusk-tally/store';
import type { EffectiveClaim } from '../lots';
import { figureRow, hashOf, runConditions } from '../evidence';
import type { Lab } from '../shared';

export type SlimFigure = Omit<FigureRow, 'detail'>;
export type SlimRun = Pick<
  RunRow,
  'id' | 'cellId' | 'summary' | 'channelId' | 'ambientC' | 'clamping' | 'startedAt' | 'createdAt'
>;

/** What the lab knows beside a run: its model and its channels. */
export interface MeterKnowledge {
  factors: CorrectionFactors | undefined;
  /** Coldest and warmest the lab keeps its room, °C; null where it keeps none. */
  roomC: RoomRange | null;
  channels: ReadonlyMap<
    number,
    {
      title: string;
      effect: ChannelEffect | null;
      heldAfterRunId: number | null;
      heldReason: string | null;
    }
  >;
}

const roomOf = (settings: Pick<SettingsRow, 'roomLowC' | 'roomHighC'> | null): RoomRange | null =>
  settings && settings.roomLowC !== null && settings.roomHighC !== null
    ? [settings.roomLowC, settings.roomHighC]
    : null;

/** What is known of channels and of one model, read once for a lot. */
export async function meterKnowledge(
  lab: Lab,
  modelId: number,
  transaction: Transaction,
): Promise<MeterKnowledge> {
  const { store } = lab;
  const [effects, channels, instruments, factors, settings] = await Promise.all([
    store.meters.effects.find({}, { transaction }),
    store.meters.channels.find({}, { transaction }),
    store.instruments.find({}, { transaction, columns: ['id', 'name'] }),
    store.meters.modelFactors.one({ modelId }, { transaction }),
    store.settings.one({ id: 1 }, { transaction, columns: ['roomLowC', 'roomHighC'] }),
  ]);
  const effectOf = new Map(effects.map((row) => [row.channelId, row]));
  const nameOf = new Map(instruments.map((row) => [row.id, row.name]));
  return {
    factors: factors?.factors,
    roomC: roomOf(settings),
    channels: new Map(
      channels.map((channel) => {
        const row = effectOf.get(channel.id);
        return [
          channel.id,
          {
            title: `${nameOf.get(channel.instrumentId) ?? 'Channel'}, ${channel.name}`,
            effect: row?.effect ?? null,
            heldAfterRunId: row?.heldAfterRunId ?? null,
            heldReason: row?.heldReason ?? null,
          },
        ];
      }),
    ),
  };
}

/** A measured capacity as it stands against the claim. */
export interface AtClaim {
  /** Null when it cannot be carried to the claim’s conditions. */
  estimate: Estimate | null;
  corrections: Correction[];
  differences: string[];
  held: string | null;
  /** Hash of everything it depends on. */
  inputHash: string;
}

const conditionsOf = (claim: EffectiveClaim) => ({
  rateIt: claim.rateIt?.value ?? null,
  cutoffV: claim.cutoffV.value,
  temperatureC: claim.temperatureC?.value ?? null,
});

/** What a hand log, or what was typed beside a capacity, says of how its cell was discharged. */
export interface HandConditions {
  currentA: number | null;
  temperatureC: number | null;
  /** From a hand log, whose points show the cut-off, too. */
  isLog?: boolean;
  /** Of a hand log’s run; null or absent where nobody recorded it. */
  clamping?: Clamping | null;
}

function carry(
  raw: Estimate,
  { run, hand }: Pick<PendingAtClaim, 'run' | 'hand'>,
  claim: EffectiveClaim,
  knowledge: MeterKnowledge,
): Comparable {
  const channelId = run?.channelId ?? null;
  const channel = channelId === null ? null : knowledge.channels.get(channelId);
  const ratedAh = claim.capacityAh?.value ?? raw.value;
  return carryToClaim(
    raw,
    conditionsOf(claim),
    {
      roomC: knowledge.roomC,
      ...(run
        ? runConditions(run.summary, run.ambientC, ratedAh)
        : {
            meanCurrentA: hand?.currentA ?? null,
            ratedAh,
            meanTemperatureC: hand?.temperatureC ?? null,
            restAfterChargeS: null,
            restBeforeS: null,
          }),
    },
    knowledge.factors,
    channel?.effect ? channelCorrection({ ...channel.effect, channel: channel.title }) : null,
    channel?.effect?.repeatability
      ? { relative: channel.effect.repeatability, source: 'from this lab’s repeats' }
      : null,
  );
}

/** Carries a measured capacity to the claim’s conditions, as far as that is sound. */
export function standAtClaim(
  raw: SlimFigure,
  run: SlimRun | null,
  claim: EffectiveClaim,
  knowledge: MeterKnowledge,
  hand: HandConditions | null = null,
): AtClaim {
  const result = carry(raw, { run, hand }, claim, knowledge);
  const corrections = result.comparable ? result.corrections : [];
  const channel =
    run === null || run.channelId === null ? null : knowledge.channels.get(run.channelId);
  const isHeld =
    run !== null && channel && channel.heldAfterRunId !== null && run.id > channel.heldAfterRunId;
  return {
    estimate: result.estimate,
    corrections,
    differences: [
      ...(result.comparable ? [] : result.reasons),
      ...result.remarks,
      ...[
        clampingDifference(claim.clamping?.value ?? null, (run ?? hand)?.clamping ?? null),
      ].filter((text) => text !== null),
      ...(run || hand?.isLog ? [] : ['Typed in: the cut-off of the test is not recorded.']),
    ],
    held: isHeld ? `${channel.title} is held back. ${channel.heldReason}`.slice(0, 255) : null,
    inputHash: hashOf({
      raw: raw.inputHash,
      rawId: raw.id,
      method: AT_CLAIM_METHOD,
      conditions: conditionsOf(claim),
      corrections,
    }),
  };
}

/** One figure to be written: the measured one it comes from, and its run or hand log. */
export interface PendingAtClaim {
  raw: SlimFigure;
  /** Null for the result of a hand log. */
  run: SlimRun | null;
  hand: HandConditions | null;
  inputHash: string;
}

/** Writes carried figures with their whole budget. @returns id by id of the measured one. */
export async function storeAtClaim(
  lab: Lab,
  pending: readonly PendingAtClaim[],
  claim: EffectiveClaim,
  knowledge: MeterKnowledge,
  transaction: Transaction,
): Promise<Map<number, number>> {
  if (pending.length === 0) return new Map();
  const { figures } = lab.store;
  const measured = await figures.find({ id: pending.map(({ raw }) => raw.id) }, { transaction });
  const detailOf = new Map(measured.map((row) => [row.id, row.detail]));
  const rows = pending.flatMap(({ raw, run, hand, inputHash }) => {
    const result = carry(detailOf.get(raw.id)!, { run, hand }, claim, knowledge);
    if (!result.comparable) return [];
    const place = {
      cellId: raw.cellId,
      lotId: raw.lotId,
      runId: raw.runId,
      readingId: raw.readingId,
      cutoffV: raw.cutoffV,
    };
    const figure = figureAtClaim(detailOf.get(raw.id)!, conditionsOf(claim), result.corrections);
    return [{ ...figureRow(figure, place, null), inputHash }];
  });
  await figures.insertMany(rows, transaction);
  const stored = await figures.find(
    {
      cellId: [...new Set(pending.map(({ raw }) => raw.cellId))],
      quantity: 'capacityAtClaim',
      inputHash: [...new Set(pending.map(({ inputHash }) => inputHash))],
    },
    { transaction, columns: ['id', 'inputHash'], order: [['id', 'ASC']] },
  );
  const byHash = new Map(stored.map((row) => [row.inputHash, row.id]));
  return new Map(pending.map(({ raw, inputHash }) => [raw.id, byHash.get(inputHash)!]));
}
