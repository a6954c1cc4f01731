const DAY_MS = 86_400_000;

/** Making one takes far longer than asking it. */
const clocks = new Map<string, Intl.DateTimeFormat>();

/** What shows the date and the time of a zone in numbers. @throws RangeError for a name nobody knows. */
function clockOf(timeZone: string): Intl.DateTimeFormat {
  const known = clocks.get(timeZone);
  if (known) return known;
  const clock = new Intl.DateTimeFormat('en-GB', {
    timeZone,
    hourCycle: 'h23',
    year: 'numeric',
    month: '2-digit',
    day: '2-digit',
    hour: '2-digit',
    minute: '2-digit',
    second: '2-digit',
  });
  clocks.set(timeZone, clock);
  return clock;
}

/** By the clock itself, ms. */
function shownAheadMs(timeZone: string, at: Date): number {
  const parts = Object.fromEntries(
    clockOf(timeZone)
      .formatToParts(at)
      .map(({ type, value }) => [type, Number(value)]),
  ) as Record<'year' | 'month' | 'day' | 'hour' | 'minute' | 'second', number>;
  const { year, month, day, hour, minute, second } = parts;
  return (
    Date.UTC(year, month - 1, day, hour, minute, second) - Math.floor(at.getTime() / 1000) * 1000
  );
}

/** Since 1990 clocks have only been changed at whole minutes of UTC; a test looks at all of them. */
const MINUTE_MS = 60_000;
const MINUTES_FROM_MS = Date.UTC(1990, 0, 1);
/** Minutes of which it is known, by zone; forgotten when there are so many. */
const known = new Map<string, Map<number, number>>();
const MOST_KNOWN = 4000;

/**
 * How far a time zone is ahead of UTC at a moment, ms.
 * @param timeZone IANA name. @throws RangeError for a name nobody knows.
 * @example aheadMs('Europe/Vienna', new Date('2026-07-01T00:00:00Z')) // 7200000
 */
export function aheadMs(timeZone: string, at: Date): number {
  if (!(at.getTime() >= MINUTES_FROM_MS)) return shownAheadMs(timeZone, at);
  const minute = Math.floor(at.getTime() / MINUTE_MS);
  let minutes = known.get(timeZone);
  const before = minutes?.get(minute);
  if (before !== undefined) return before;
  const ahead = shownAheadMs(timeZone, at);
  if (!minutes || minutes.size >= MOST_KNOWN) known.set(timeZone, (minutes = new Map()));
  minutes.set(minute, ahead);
  return ahead;
}

/**
 * Day of a moment in a time zone, YYYY-MM-DD.
 * @example dayIn('Europe/Vienna', new Date('2026-07-01T23:30:00Z')) // '2026-07-02'
 */
export const dayIn = (timeZone: string, at: Date): string =>
  new Date(at.getTime() + aheadMs(timeZone, at)).toISOString().slice(0, 10);

/**
 * Moment, ms since 1970 UTC, at which a day of a time zone’s calendar is so many minutes old, right
 * across changes of the clock; a time the clock leaves out is taken an hour later.
 * @param day YYYY-MM-DD. @param minutes from midnight, may be 1440.
 * @example new Date(momentIn('Europe/Vienna', '2026-03-30', 480)).toISOString() // '2026-03-30T06:00:00.000Z'
 */
export function momentIn(timeZone: string, day: string, minutes: number): number {
  const local = Date.parse(`${day}T00:00:00Z`) + minutes * 60_000;
  const guess = local - aheadMs(timeZone, new Date(local));
  return local - aheadMs(timeZone, new Date(guess));
}

/** The last minute of a day, 23:59. */
const LAST_MINUTE = 1439;

/** Hours of the week in which somebody is there, in the lab’s calendar. */
export interface AttendedHours {
  /** Minutes of the day; until its last minute, 23:59, is until its end. */
  attendedFromMin: number;
  attendedToMin: number;
  /** 1 Monday to 7 Sunday. */
  attendedDays: readonly number[];
}

/** Stretches of attended time over some days from a moment on, s from it, joined where they touch. */
export function attendedSpans(
  { attendedFromMin, attendedToMin, attendedDays }: AttendedHours,
  timeZone: string,
  now: Date,
  days: number,
): { fromS: number; toS: number }[] {
  const today = Date.parse(`${dayIn(timeZone, now)}T00:00:00Z`);
  const spans: { fromS: number; toS: number }[] = [];
  // A clock has no 24:00 to be typed: who is there until 23:59 is there at midnight.
  const untilMin = attendedToMin >= LAST_MINUTE ? LAST_MINUTE + 1 : attendedToMin;
  for (let i = 0; i < days; i++) {
    const at = new Date(today + i * DAY_MS);
    const weekday = ((at.getUTCDay() + 6) % 7) + 1;
    if (!attendedDays.includes(weekday)) continue;
    const day = at.toISOString().slice(0, 10);
    const [fromS, toS] = [attendedFromMin, untilMin].map(
      (minutes) => (momentIn(timeZone, day, minutes) - now.getTime()) / 1000,
    ) as [number, number];
    const last = spans[spans.length - 1];
    if (last && fromS <= last.toS) last.toS = toS;
    else if (toS > 0) spans.push({ fromS: Math.max(0, fromS), toS });
  }
  return spans;
}

/** How long somebody is there from now on without a break, s; 0 where nobody is. */
export function attendedForS(hours: AttendedHours, timeZone: string, now: Date): number {
  const [first] = attendedSpans(hours, timeZone, now, 15);
  return first && first.fromS <= 0 ? first.toS : 0;
}
