/** How the time column writes a moment. */
export type TimeStyle = 'number' | 'clock' | 'stamp';

const HALF = '(?:\\s*([ap])\\.?\\s?m\\.?)?';
const TIME = `(\\d{1,2}):(\\d{2})(?::(\\d{2}(?:[.,]\\d+)?))?${HALF}`;
const CLOCK = /^(?:(\d+)[d.]\s*)?(\d+):([0-5]?\d):([0-5]?\d(?:[.,]\d+)?)$/;
const SHORT_CLOCK = /^(\d+):([0-5]?\d(?:[.,]\d+)?)$/;
/** `1:02:03 PM`: a clock of twelve hours. */
const HALF_CLOCK = /^(\d{1,2}):([0-5]\d)(?::([0-5]\d(?:[.,]\d+)?))?\s*([ap])\.?\s?m\.?$/i;
const STAMP_YEAR_FIRST = new RegExp(
  `^(\\d{4})[-/.](\\d{1,2})[-/.](\\d{1,2})[T ]\\s*${TIME}\\s*(Z|[+-]\\d{2}:?\\d{2})?$`,
  'i',
);
const STAMP_YEAR_LAST = new RegExp(
  `^(\\d{1,2})([-/.])(\\d{1,2})\\2(\\d{4}|\\d{2})[T ,]\\s*${TIME}$`,
  'i',
);
const WEEKDAY = '(?:[\\p{L}]{2,10}\\.?,?\\s+)?';
/** `27 Nov 2026 10:00:01`, `27. November 2026, 10:00`, `27-nov-26 10:00:01`, `27 de noviembre de 2026 10:00`. */
const STAMP_DAY_NAME = new RegExp(
  `^${WEEKDAY}(\\d{1,2})(?:\\.|st|nd|rd|th|er)?[-\\s/]*(?:de\\s+)?([\\p{L}]{3,10})\\.?[-\\s/,]*(?:de\\s+)?(\\d{4}|\\d{2})[T ,]\\s*(?:at\\s+|um\\s+)?${TIME}$`,
  'iu',
);
/** `Nov 27, 2026 10:00:01 AM`. */
const STAMP_NAME_DAY = new RegExp(
  `^${WEEKDAY}([\\p{L}]{3,10})\\.?[-\\s]+(\\d{1,2})(?:st|nd|rd|th)?,?[-\\s]+(\\d{4})[T ,]\\s*(?:at\\s+)?${TIME}$`,
  'iu',
);
/** `Fri Nov 27 10:00:01 2026`. */
const STAMP_YEAR_END = new RegExp(
  `^${WEEKDAY}([\\p{L}]{3,10})\\.?\\s+(\\d{1,2})\\s+${TIME}\\s+(\\d{4})$`,
  'iu',
);
/** Names of months as they begin, accents taken off: English, German, French, Spanish, Italian, Dutch. */
const MONTHS: readonly RegExp[] = [
  /^(jan|ene|gen)/,
  /^(feb|fev)/,
  /^(mar|mrz|maa|mrt|mae)/,
  /^(apr|avr|abr)/,
  /^(may|mai|mag|mei)/,
  /^(jun|juin|giu)/,
  /^(jul|juil|lug)/,
  /^(aug|aou|ago)/,
  /^(sep|set)/,
  /^(oct|okt|ott)/,
  /^nov/,
  /^(dec|dez|dic)/,
];

/** Number of a month by its name, 1 to 12; NaN for none. */
function monthOf(name: string): number {
  const plain = name.normalize('NFD').replace(/\p{M}/gu, '').toLowerCase();
  const at = MONTHS.findIndex((pattern) => pattern.test(plain));
  return at < 0 ? NaN : at + 1;
}

/** A date whose month is a name, as year, month, day and the parts of its time. */
function namedDate(text: string): { date: [number, number, number]; time: string[] } | null {
  const year = (digits: string) => Number(digits) + (digits.length === 2 ? 2000 : 0);
  const day = STAMP_DAY_NAME.exec(text);
  if (day) return { date: [year(day[3]!), monthOf(day[2]!), Number(day[1])], time: day.slice(4) };
  const name = STAMP_NAME_DAY.exec(text);
  if (name)
    return { date: [year(name[3]!), monthOf(name[1]!), Number(name[2])], time: name.slice(4) };
  const end = STAMP_YEAR_END.exec(text);
  return end
    ? { date: [year(end[7]!), monthOf(end[1]!), Number(end[2])], time: end.slice(3, 7) }
    : null;
}

/** Seconds of a day from hour, minute, second and half of the day. */
function secondsOfDay([hour, minute, second, half]: readonly (string | undefined)[]): number {
  const hours = half
    ? (Number(hour) % 12) + (half.toLowerCase() === 'p' ? 12 : 0)
    : Number(hour) % 24;
  return hours * 3600 + Number(minute) * 60 + decimal(second);
}

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
  if (CLOCK.test(cell) || SHORT_CLOCK.test(cell) || HALF_CLOCK.test(cell)) return 'clock';
  if (STAMP_YEAR_FIRST.test(cell) || STAMP_YEAR_LAST.test(cell)) return 'stamp';
  const named = namedDate(cell);
  return named && !Number.isNaN(named.date[1]) ? 'stamp' : null;
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
  const half = HALF_CLOCK.exec(text);
  if (half) return secondsOfDay(half.slice(1));
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
    const [, year, month, day] = first;
    return (
      utcSeconds(Number(year), Number(month), Number(day)) +
      secondsOfDay(first.slice(4, 8)) -
      offsetSeconds(first[8])
    );
  }
  const last = STAMP_YEAR_LAST.exec(text);
  if (!last) {
    const named = namedDate(text);
    return named ? utcSeconds(...named.date) + secondsOfDay(named.time) : NaN;
  }
  const [, a, separator, b, year] = last;
  const dayIsFirst = separator === '.' || dayFirst;
  const [day, month] = dayIsFirst ? [Number(a), Number(b)] : [Number(b), Number(a)];
  return (
    utcSeconds(Number(year) + (year!.length === 2 ? 2000 : 0), month, day) +
    secondsOfDay(last.slice(5, 9))
  );
}

/**
 * Whether dates can be read with the day or the month first, and nothing in them tells: year-last, no
 * dots, both parts a month.
 */
export function isEitherOrder(samples: readonly string[]): boolean {
  const dates = samples.flatMap((sample) => {
    const match = STAMP_YEAR_LAST.exec(sample.trim());
    return match ? [match] : [];
  });
  return (
    dates.length > 0 &&
    dates.every(
      ([, a, separator, b]) =>
        separator !== '.' && Number(a) <= 12 && Number(b) <= 12 && Number(a) !== Number(b),
    )
  );
}

/** Whether all of some year-last dates are one day. */
export const isOneDate = (samples: readonly string[]): boolean =>
  new Set(
    samples.flatMap((sample) => {
      const match = STAMP_YEAR_LAST.exec(sample.trim());
      return match ? [`${match[1]}/${match[3]}`] : [];
    }),
  ).size === 1;

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
