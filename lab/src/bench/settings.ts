import type { Span } from '@dusk-tally/core/bench';
import type { BenchSettingsRow, Transaction } from '@dusk-tally/store';
import { z } from 'zod';
import { type Lab, LabError, procedure } from '../shared';

const DAY_MS = 86_400_000;

/** The bench’s settings; they are there from the first migration on. */
export const benchSettings = async (
  lab: Lab,
  transaction?: Transaction,
): Promise<BenchSettingsRow> => (await lab.store.bench.settings.one({ id: 1 }, { transaction }))!;

/** How far a time zone is ahead of UTC at a moment, ms. */
function aheadMs(timeZone: string, at: Date): number {
  const parts = Object.fromEntries(
    new Intl.DateTimeFormat('en-GB', {
      timeZone,
      hourCycle: 'h23',
      year: 'numeric',
      month: '2-digit',
      day: '2-digit',
      hour: '2-digit',
      minute: '2-digit',
      second: '2-digit',
    })
      .formatToParts(at)
      .map(({ type, value }) => [type, Number(value)]),
  ) as Record<'year' | 'month' | 'day' | 'hour' | 'minute' | 'second', number>;
  const { year, month, day, hour, minute, second } = parts;
  return (
    Date.UTC(year, month - 1, day, hour, minute, second) - Math.floor(at.getTime() / 1000) * 1000
  );
}

/** A minute of a day of the lab’s calendar as a moment, right across changes of the clock. */
function momentOf(dayUtc: number, minutes: number, timeZone: string): number {
  const local = dayUtc + minutes * 60_000;
  const guess = local - aheadMs(timeZone, new Date(local));
  return local - aheadMs(timeZone, new Date(guess));
}

/** Attended hours of some days from a moment on, s from it. */
export function attendedSpans(
  settings: Pick<BenchSettingsRow, 'attendedFromMin' | 'attendedToMin' | 'attendedDays'>,
  timeZone: string,
  now: Date,
  days: number,
): Span[] {
  const localNow = now.getTime() + aheadMs(timeZone, now);
  const today = Math.floor(localNow / DAY_MS) * DAY_MS;
  const spans: Span[] = [];
  for (let i = 0; i < days; i++) {
    const day = today + i * DAY_MS;
    const weekday = ((new Date(day).getUTCDay() + 6) % 7) + 1;
    if (!settings.attendedDays.includes(weekday)) continue;
    const [from, to] = [settings.attendedFromMin, settings.attendedToMin].map(
      (minutes) => (momentOf(day, minutes, timeZone) - now.getTime()) / 1000,
    ) as [number, number];
    if (to > 0) spans.push({ fromS: Math.max(0, from), toS: to });
  }
  return spans;
}

/** Whether somebody is there at a moment. */
export async function isAttended(lab: Lab, now: Date, transaction?: Transaction): Promise<boolean> {
  const [settings, general] = await Promise.all([
    benchSettings(lab, transaction),
    lab.store.settings.one({ id: 1 }, { transaction }),
  ]);
  const [first] = attendedSpans(settings, general?.timeZone ?? 'UTC', now, 1);
  return first !== undefined && first.fromS <= 0;
}

/** Keeps the hours somebody is there and how long agents carry on alone. */
export const changeBenchSettings = procedure({
  role: 'lead',
  input: z
    .object({
      version: z.int(),
      attendedFromMin: z.int().min(0).max(1439),
      attendedToMin: z.int().min(1).max(1440),
      attendedDays: z.array(z.int().min(1).max(7)).min(1, 'Expected at least one day.'),
      silenceLimitS: z
        .number()
        .min(10, 'Expected 10 s to an hour.')
        .max(3600, 'Expected 10 s to an hour.'),
    })
    .refine((hours) => hours.attendedFromMin < hours.attendedToMin, {
      message: 'Expected the hours to begin before they end.',
    }),
  run: async ({ lab, input: { version, ...after }, transaction, audit }): Promise<void> => {
    const before = await benchSettings(lab, transaction);
    const changed = await lab.store.bench.settings.update(
      { ...after, version: version + 1 },
      { id: 1, version },
      transaction,
    );
    if (changed === 0)
      throw new LabError(
        'conflict',
        'Someone changed the bench’s settings meanwhile. Reload to see how.',
      );
    await audit({
      act: 'changed bench settings',
      subjectType: 'settings',
      subjectId: 'bench',
      before,
      after,
    });
  },
});

/** Keeps the room’s temperature as it was just read. */
export const readAmbient = procedure({
  role: 'technician',
  input: z.object({
    celsius: z.number().min(-40, 'Expected −40 to 80 °C.').max(80, 'Expected −40 to 80 °C.'),
  }),
  run: async ({ lab, input, transaction, audit }): Promise<void> => {
    await lab.store.bench.settings.update(
      { ambientC: input.celsius, ambientAt: lab.now() },
      { id: 1 },
      transaction,
    );
    await audit({
      act: 'read room temperature',
      subjectType: 'settings',
      subjectId: 'bench',
      after: input,
    });
  },
});
