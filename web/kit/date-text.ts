const MONTHS = ['jan', 'feb', 'mar', 'apr', 'may', 'jun', 'jul', 'aug', 'sep', 'oct', 'nov', 'dec'];

const TWO_DIGITS = 2000;

/** `YYYY-MM-DD` of a year, month and day that exist; null for others. */
function dayThatExists(year: number, month: number, day: number): string | null {
  const whole = year < 100 ? TWO_DIGITS + year : year;
  const at = new Date(Date.UTC(whole, month - 1, day));
  const exists =
    whole >= 1000 &&
    at.getUTCFullYear() === whole &&
    at.getUTCMonth() === month - 1 &&
    at.getUTCDate() === day;
  return exists ? at.toISOString().slice(0, 10) : null;
}

/**
 * A day as people write it: `2026-11-27`, `27.11.2026`, `27/11/26`, `27 Nov 2026`, day before month.
 * @returns `YYYY-MM-DD`; empty for nothing, null for what is no day.
 */
export function readDay(text: string): string | null {
  const plain = text.trim().toLowerCase();
  if (plain === '') return '';
  const iso = /^(\d{4})-(\d{1,2})-(\d{1,2})$/.exec(plain);
  if (iso) return dayThatExists(Number(iso[1]), Number(iso[2]), Number(iso[3]));
  const numbers = /^(\d{1,2})[./ -](\d{1,2})[./ -](\d{4}|\d{2})\.?$/.exec(plain);
  if (numbers) return dayThatExists(Number(numbers[3]), Number(numbers[2]), Number(numbers[1]));
  const words = /^(\d{1,2})[. ]*\s*([a-z]{3})[a-z]*\.?,?\s*(\d{4}|\d{2})$/.exec(plain);
  const month = words ? MONTHS.indexOf(words[2]!) + 1 : 0;
  if (words && month > 0) return dayThatExists(Number(words[3]), month, Number(words[1]));
  return null;
}

/** A day as shown: `27 Nov 2026`; what is no day as it is. */
export function dayWords(day: string): string {
  if (!/^\d{4}-\d{2}-\d{2}$/.test(day)) return day;
  return new Date(`${day}T00:00:00Z`).toLocaleDateString('en-GB', {
    dateStyle: 'medium',
    timeZone: 'UTC',
  });
}
