/** How the time column writes a moment. */
export type TimeStyle = 'number' | 'clock' | 'stamp';

const CLOCK = /^(?:(\d+)[d.]\s*)?(\d+):([0-5]?\d):([0-5]?\d(?:[.,]\d+)?)$/;
const SHORT_CLOCK = /^(\d+):([0-5]?\d(?:[.,]\d+)?)$/;
const STAMP_YEAR_FIRST =
  /^(\d{4})[-/.](\d{1,2})[-/.](\d{1,2})[T ]\s*(\d{1,2}):(\d{2})(?::(\d{2}(?:[.,]\d+)?))?\s*(Z|[+-]\d{2}:?\d{2})?$/i;
const STAMP_YEAR_LAST =
  /^(\d{1,2})([-/.])(\d{1,2})\2(\d{4}|\d{2})[T ,]\s*(\d{1,2}):(\d{2})(?::(\d{2}(?:[.,]\d+)?))?\s*(am|pm)?$/i;

/** Whether a text is digits with at most one point among them: most cells of most logs. */
function isDecimal(cell: string): boolean {
  let points = 0;
  for (let i = 0; i < cell.length; i++) {
    const code = cell.charCodeAt(i);
    if (code >= 48 && code <= 57) continue;
    if (code !== 46 || ++points > 1) return false;
  }
  return cell.length > points;
}

/** Longer cells are no moment. */
const LONGEST_MOMENT = 40;

/** Which style a time cell has; null when it is none of them. */
export function timeStyleOf(text: string): TimeStyle | null {
  if (text.length > 4 * LONGEST_MOMENT) return null;
  const cell = text.trim();
  if (cell.length > LONGEST_MOMENT) return null;
  if (isDecimal(cell)) return 'number';
  if (/^[+-]?(\d+([.,]\d*)?|[.,]\d+)(e[+-]?\d+)?$/i.test(cell)) return 'number';
  if (CLOCK.test(cell) || SHORT_CLOCK.test(cell)) return 'clock';
  return STAMP_YEAR_FIRST.test(cell) || STAMP_YEAR_LAST.test(cell) ? 'stamp' : null;
}

/**
 * Elapsed `h:mm:ss`, `d.hh:mm:ss` or `m:ss` in s; hours may pass 24. NaN when it is none.
 * @example parseClock('1:02:03.5') // 3723.5
 */
export function parseClock(text: string): number {
  const full = CLOCK.exec(text);
  if (full) {
    const days = Number(full[1] ?? 0);
    return days * 86400 + Number(full[2]) * 3600 + Number(full[3]) * 60 + decimal(full[4]);
  }
  const short = SHORT_CLOCK.exec(text);
  return short ? Number(short[1]) * 60 + decimal(short[2]) : NaN;
}

/**
 * A date with time in s since 1970 UTC. A stamp without offset is taken as UTC.
 * @param dayFirst for `03/04/2026` styles: whether the day stands first.
 * @returns NaN when the text is no such stamp or no such day exists.
 * @example parseStamp('27.11.2026 10:00:01') - parseStamp('27.11.2026 10:00:00') // 1
 */
export function parseStamp(text: string, dayFirst = true): number {
  const first = STAMP_YEAR_FIRST.exec(text);
  if (first) {
    const [, year, month, day, hour, minute, second, offset] = first;
    return (
      utcSeconds(Number(year), Number(month), Number(day)) +
      Number(hour) * 3600 +
      Number(minute) * 60 +
      decimal(second) -
      offsetSeconds(offset)
    );
  }
  const last = STAMP_YEAR_LAST.exec(text);
  if (!last) return NaN;
  const [, a, separator, b, year, hour, minute, second, half] = last;
  const dayIsFirst = separator === '.' || dayFirst;
  const [day, month] = dayIsFirst ? [Number(a), Number(b)] : [Number(b), Number(a)];
  const hours = (Number(hour) % (half ? 12 : 24)) + (half?.toLowerCase() === 'pm' ? 12 : 0);
  return (
    utcSeconds(Number(year) + (year!.length === 2 ? 2000 : 0), month, day) +
    hours * 3600 +
    Number(minute) * 60 +
    decimal(second)
  );
}

/** Whether sampled year-last stamps put the day first: decided by am/pm or a part above 12. */
export function isDayFirst(samples: string[]): boolean {
  for (const sample of samples) {
    const match = STAMP_YEAR_LAST.exec(sample.trim());
    if (!match) continue;
    if (match[8]) return false;
    if (Number(match[1]) > 12) return true;
    if (Number(match[3]) > 12) return false;
  }
  return true;
}

function decimal(text: string | undefined): number {
  return text === undefined ? 0 : Number(text.replace(',', '.'));
}

function utcSeconds(year: number, month: number, day: number): number {
  const ms = Date.UTC(year, month - 1, day);
  return new Date(ms).getUTCMonth() === month - 1 && month <= 12 ? ms / 1000 : NaN;
}

function offsetSeconds(offset: string | undefined): number {
  if (!offset || offset.toUpperCase() === 'Z') return 0;
  const digits = offset.replace(':', '');
  const seconds = Number(digits.slice(1, 3)) * 3600 + Number(digits.slice(3, 5)) * 60;
  return digits.startsWith('-') ? -seconds : seconds;
}
