/**
 * Days between two calendar days, `to − from`. Both as `YYYY-MM-DD`.
 * @example daysBetween('2026-02-27', '2026-03-01') // 2
 */
export function daysBetween(from: string, to: string): number {
  return Math.round((Date.parse(to) - Date.parse(from)) / 86_400_000);
}

/**
 * The day `count` days after `day`.
 * @example addDays('2028-02-28', 1) // '2028-02-29'
 */
export function addDays(day: string, count: number): string {
  return new Date(Date.parse(day) + count * 86_400_000).toISOString().slice(0, 10);
}

/**
 * Days in a month, 1 to 12, of the Gregorian calendar.
 * @example daysInMonth(2028, 2) // 29
 */
export function daysInMonth(year: number, month: number): number {
  return new Date(Date.UTC(year, month, 0)).getUTCDate();
}

/** `YYYY-MM-DD` of a year, month and day. */
export function dayOf(year: number, month: number, day: number): string {
  return `${String(year).padStart(4, '0')}-${String(month).padStart(2, '0')}-${String(day).padStart(2, '0')}`;
}

/**
 * Monday of a week of the year (ISO 8601: week 1 holds the first Thursday).
 * @example mondayOfWeek(2026, 1) // '2025-12-29'
 */
export function mondayOfWeek(year: number, week: number): string {
  const fourth = new Date(Date.UTC(year, 0, 4));
  const weekday = (fourth.getUTCDay() + 6) % 7;
  return addDays(dayOf(year, 1, 4), 7 * (week - 1) - weekday);
}

/**
 * Weeks a year has, 52 or 53 (ISO 8601).
 * @example weeksInYear(2026) // 53
 */
export function weeksInYear(year: number): number {
  return daysBetween(mondayOfWeek(year, 1), mondayOfWeek(year + 1, 1)) / 7;
}

/**
 * Age in whole months, as people say it.
 * @example monthsBetween('2025-11-28', '2026-11-27') // 11
 */
export function monthsBetween(from: string, to: string): number {
  const [a, b] = [new Date(from), new Date(to)];
  const months = (b.getUTCFullYear() - a.getUTCFullYear()) * 12 + b.getUTCMonth() - a.getUTCMonth();
  return b.getUTCDate() < a.getUTCDate() ? months - 1 : months;
}
