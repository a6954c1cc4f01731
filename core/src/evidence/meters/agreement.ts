import { medianIntervalS } from '../trace';

/** A reading with its expanded uncertainty (k = 2), in one unit. */
export interface StatedReading {
  meter: string;
  value: number;
  expanded: number;
}

/** Two meters on one quantity: difference against what their limits allow together (handbook, chapter 2). */
export interface Agreement {
  a: string;
  b: string;
  difference: number;
  /** √(U₁² + U₂²). */
  combined: number;
  /** |difference| over `combined`; above 1 is a disagreement (ISO/IEC 17043, E_n). */
  en: number;
  agrees: boolean;
}

/**
 * Every pair of meters in one circuit, worst first (handbook, chapter 3, side by side).
 * @example compareMeters([{ meter: 'a', value: 20.3, expanded: 0.3 }, { meter: 'b', value: 20, expanded: 0.4 }])[0].en // 0.6
 */
export function compareMeters(readings: readonly StatedReading[]): Agreement[] {
  const pairs: Agreement[] = [];
  for (let i = 0; i < readings.length; i++)
    for (let j = i + 1; j < readings.length; j++) {
      const [a, b] = [readings[i]!, readings[j]!];
      const difference = a.value - b.value;
      const combined = Math.hypot(a.expanded, b.expanded);
      const en = difference === 0 ? 0 : Math.abs(difference) / combined;
      pairs.push({ a: a.meter, b: b.meter, difference, combined, en, agrees: en <= 1 });
    }
  return pairs.sort((x, y) => y.en - x.en);
}

/** A series of readings of one meter. */
export interface MeterSeries {
  timeS: Float64Array;
  values: Float64Array;
}

/**
 * Two meters at common times: the slower one's stamps, the quicker one interpolated. A stamp
 * further from the quicker one's readings than twice its usual interval is left out.
 */
export function atCommonTimes(
  a: MeterSeries,
  b: MeterSeries,
): { timeS: number[]; a: number[]; b: number[] } {
  const aIsSlow = medianIntervalS(a.timeS) >= medianIntervalS(b.timeS);
  const [slow, quick] = aIsSlow ? [a, b] : [b, a];
  const reach = 2 * medianIntervalS(quick.timeS);
  const timeS: number[] = [];
  const slowValues: number[] = [];
  const quickValues: number[] = [];
  let at = 0;
  for (let i = 0; i < slow.timeS.length; i++) {
    const t = slow.timeS[i]!;
    while (at + 1 < quick.timeS.length && quick.timeS[at + 1]! <= t) at++;
    const [before, after] = [
      quick.timeS[at]!,
      quick.timeS[Math.min(at + 1, quick.timeS.length - 1)]!,
    ];
    if (before > t || after < t || after - before > reach) continue;
    const share = after > before ? (t - before) / (after - before) : 0;
    const [low, high] = [
      quick.values[at]!,
      quick.values[Math.min(at + 1, quick.values.length - 1)]!,
    ];
    timeS.push(t);
    slowValues.push(slow.values[i]!);
    quickValues.push(low + share * (high - low));
  }
  return aIsSlow
    ? { timeS, a: slowValues, b: quickValues }
    : { timeS, a: quickValues, b: slowValues };
}
