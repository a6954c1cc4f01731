import type { Accuracy, CalibrationPoint } from '@dusk-tally/core/evidence';
import { dayIn } from '@dusk-tally/core/units';
import type { ChannelRow, InstrumentRow, MeterPeriodRow, Transaction } from '@dusk-tally/store';
import { labTimeZone } from '../lots';
import type { Actor, Lab } from '../shared';

/** From when what was first described holds. */
export const FIRST_DAY = '1990-01-01';

/** What is known of instruments and channels on a day of the lab’s calendar. */
export interface MetersThen {
  /** The instrument as it was described on a day, YYYY-MM-DD; null where none is named. */
  instrument: (id: number | null, day: string) => InstrumentRow | null;
  channel: (id: number | null, day: string) => ChannelRow | null;
  /** Whether a channel is described as one that cannot charge. */
  loadOnly: (channelId: number | null) => boolean;
  /** The day of a run: when it began by its own log, else when it was taken in. */
  dayOf: (run: { startedAt: Date | null; createdAt: Date }) => string;
}

/** The period that holds on a day: the last one begun, else the first there is. */
export function periodOn<Period extends { holdsFrom: string }>(
  periods: readonly Period[],
  day: string,
): Period | null {
  const sorted = [...periods].sort((a, b) => a.holdsFrom.localeCompare(b.holdsFrom));
  return sorted.findLast(({ holdsFrom }) => holdsFrom <= day) ?? sorted[0] ?? null;
}

const keyOf = ({ instrumentId, channelId }: Pick<MeterPeriodRow, 'instrumentId' | 'channelId'>) =>
  `${instrumentId} ${channelId ?? ''}`;

/** Instruments and channels with everything that held of them, and since when. */
export async function metersThen(lab: Lab, transaction?: Transaction): Promise<MetersThen> {
  const { store } = lab;
  const [instruments, channels, limits, periods, timeZone] = await Promise.all([
    store.instruments.find({}, { transaction }),
    store.meters.channels.find({}, { transaction }),
    store.bench.channels.find({}, { transaction }),
    store.meters.periods.find({}, { transaction }),
    labTimeZone(lab, transaction),
  ]);
  const own = new Map<string, MeterPeriodRow[]>();
  const onlyLoad = new Set(
    limits.filter((row) => !row.limits.canCharge).map(({ channelId }) => channelId),
  );
  for (const period of periods) own.set(keyOf(period), [...(own.get(keyOf(period)) ?? []), period]);
  const instrumentOf = new Map(instruments.map((row) => [row.id, row]));
  const channelOf = new Map(channels.map((row) => [row.id, row]));
  const then = <Row extends object>(row: Row, key: string, day: string): Row => {
    const list = own.get(key);
    // Nothing was ever changed: what is described holds for all days.
    const period = list && periodOn(list, day);
    return period ? { ...row, ...period.data } : row;
  };
  return {
    loadOnly: (channelId) => onlyLoad.has(channelId ?? 0),
    dayOf: ({ startedAt, createdAt }) => dayIn(timeZone, startedAt ?? createdAt),
    instrument: (id, day) => {
      const row = instrumentOf.get(id ?? 0);
      return row ? then(row, keyOf({ instrumentId: row.id, channelId: null }), day) : null;
    },
    channel: (id, day) => {
      const row = channelOf.get(id ?? 0);
      return row
        ? then(row, keyOf({ instrumentId: row.instrumentId, channelId: row.id }), day)
        : null;
    },
  };
}

/** What holds of an instrument from a day on. */
export interface InstrumentData {
  accuracy: Accuracy | { gainPct: number; offset: number; source: string };
  calibratedOn: string | null;
  dueOn: string | null;
}

/** What holds of a channel from a day on. */
export interface ChannelData {
  calibratedOn: string | null;
  dueOn: string | null;
  voltageTable: CalibrationPoint[];
}

/**
 * Keeps what holds from a day on; what held before stays as it was. The same day again mends that
 * period.
 * @returns what holds now.
 */
export async function keepPeriod<Data extends InstrumentData | ChannelData>(
  lab: Lab,
  subject: { instrumentId: number; channelId: number | null; before: Data },
  next: { holdsFrom: string; data: Data; reason: string; today: string },
  actor: Actor,
  transaction: Transaction,
): Promise<Data> {
  const { periods } = lab.store.meters;
  const { instrumentId, channelId, before } = subject;
  const { holdsFrom, data, reason, today } = next;
  const who = { personId: actor.id, at: lab.now() };
  const known = await periods.find({ instrumentId, channelId }, { transaction });
  if (known.length === 0 && holdsFrom > FIRST_DAY) {
    const first = { instrumentId, channelId, holdsFrom: FIRST_DAY, data: before };
    await periods.insert({ ...first, reason: 'as first described', ...who }, transaction);
    known.push({ id: 0, ...first, reason: '', ...who });
  }
  const same = known.find((period) => period.holdsFrom === holdsFrom);
  if (same) await periods.update({ data, reason, ...who }, { id: same.id }, transaction);
  else
    await periods.insert({ instrumentId, channelId, holdsFrom, data, reason, ...who }, transaction);
  const all = [...known.filter((period) => period !== same), { holdsFrom, data }];
  return periodOn(all, today)!.data as Data;
}
