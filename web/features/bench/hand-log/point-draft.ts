import { type HandPoint, type PointField, POINT_FIELDS } from '@dusk-tally/core/evidence';
import {
  dayIn,
  momentIn,
  parseClearQuantity,
  STORED_UNIT,
  type TypedQuantity,
} from '@dusk-tally/core/units';

/** What is typed of one point; `at` is a time on the lab's clock, empty for now. */
export type PointDraft = Partial<Record<PointField | 'at', string>>;

/** What a point became, or which field is wrong. */
export type DraftedPoint =
  | { ok: true; at: Date; point: HandPoint }
  | { ok: false; field: PointField | 'at'; message: string };

const QUANTITY: Record<PointField, TypedQuantity> = {
  shownV: 'voltageV',
  shownA: 'currentA',
  shownAh: 'capacityAh',
  cellV: 'voltageV',
  shownW: 'powerW',
  shownWh: 'energyWh',
  shownS: 'plain',
  shownC: 'temperatureC',
  shownMohm: 'resistanceMohm',
  cellC: 'temperatureC',
  terminalC: 'temperatureC',
  cableC: 'temperatureC',
};

/** A clock that is ahead by no more than this is ours, ms. */
const AHEAD_MS = 5 * 60_000;

/** `4:38` on a tester, in s; null for what is no such time. */
function elapsed(text: string): number | null {
  const [, hours, minutes, seconds] = /^(\d{1,3}):([0-5]?\d)(?::([0-5]\d))?$/.exec(text) ?? [];
  return hours === undefined
    ? null
    : Number(hours) * 3600 + Number(minutes) * 60 + Number(seconds ?? 0);
}

/**
 * The moment of a time on the lab’s clock: today’s, or yesterday’s where today’s is still to come.
 * @returns null for what is no time.
 */
export function momentOfTime(text: string, now: Date, timeZone: string): Date | null {
  const [, hour, minute] = /^([01]?\d|2[0-3])[:.]([0-5]\d)$/.exec(text.trim()) ?? [];
  if (hour === undefined) return null;
  const minutes = Number(hour) * 60 + Number(minute);
  const today = momentIn(timeZone, dayIn(timeZone, now), minutes);
  if (today <= now.getTime() + AHEAD_MS) return new Date(Math.min(today, now.getTime()));
  const yesterday = new Date(now.getTime() - 86_400_000);
  return new Date(momentIn(timeZone, dayIn(timeZone, yesterday), minutes));
}

/** Reads a draft as a point of a log whose load came on at a moment. */
export function pointOf(
  draft: PointDraft,
  {
    now,
    loadOnAt,
    timeZone,
    isStop,
  }: { now: Date; loadOnAt: Date; timeZone: string; isStop: boolean },
): DraftedPoint {
  const time = (draft.at ?? '').trim();
  const at = time === '' ? now : momentOfTime(time, now, timeZone);
  if (at === null)
    return {
      ok: false,
      field: 'at',
      message: 'Expected a time such as 14:20, or nothing for now.',
    };
  const values: HandPoint['values'] = {};
  const decimals: HandPoint['decimals'] = {};
  for (const field of Object.keys(POINT_FIELDS) as PointField[]) {
    const text = (draft[field] ?? '').trim();
    if (text === '') continue;
    if (field === 'shownS') {
      const seconds = elapsed(text);
      if (seconds === null)
        return { ok: false, field, message: 'Expected hours and minutes such as 4:38.' };
      values.shownS = seconds;
      continue;
    }
    const parsed = parseClearQuantity(text, QUANTITY[field]);
    if (!parsed.ok) return { ok: false, field, message: parsed.message };
    const { least, most, unit, words } = POINT_FIELDS[field];
    if (parsed.value < least || parsed.value > most)
      return {
        ok: false,
        field,
        message: `${words}: expected ${least} to ${most} ${unit || STORED_UNIT[QUANTITY[field]]}.`,
      };
    values[field] = parsed.value;
    decimals[field] = parsed.decimals;
  }
  if (Object.keys(values).length === 0)
    return { ok: false, field: 'shownV', message: 'Type what the tester shows.' };
  const atS = (at.getTime() - loadOnAt.getTime()) / 1000;
  if (atS < 0)
    return { ok: false, field: 'at', message: 'Expected a time after the load came on.' };
  return { ok: true, at, point: { atS, values, decimals, isStop } };
}

/** The values of a point as they would be typed. */
export function draftOf(values: HandPoint['values'], decimals: HandPoint['decimals']): PointDraft {
  const fields = Object.keys(values) as PointField[];
  return Object.fromEntries(
    fields.map((field) => {
      const value = values[field]!;
      if (field !== 'shownS') return [field, value.toFixed(decimals[field] ?? 0)];
      const minutes = Math.round(value / 60);
      return [field, `${Math.floor(minutes / 60)}:${String(minutes % 60).padStart(2, '0')}`];
    }),
  );
}
