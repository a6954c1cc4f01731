import { chargeBetween } from './charge-steps';
import { currentLevels } from './levels';
import type { Section } from './sections';
import { temperatureSummary } from './temperature';
import type { Trace } from './trace';

/** What a kept current had shown by a reading. */
export interface ShownBy {
  /** Time since the current began, s. */
  afterS: number;
  /** Lowest voltage up to then, V. */
  lowestV: number;
  /** Highest temperature up to then, °C; null where none was logged. */
  maxC: number | null;
}

/** A current that was kept for a while. */
export interface SustainedCurrent {
  kind: 'charge' | 'discharge';
  /** Mean over the stretch, A. */
  currentA: number;
  durationS: number;
  /** Charge moved in it, Ah. */
  ah: number;
  /** Charge of the whole charge or discharge it is part of, Ah. */
  sectionAh: number;
  /** Lowest voltage of the cell in it, V. */
  lowestV: number;
  /** Highest temperature in it, °C; null where none was logged. */
  maxTemperatureC: number | null;
  /** What it had shown at the readings that follow `PULSES_S`; absent in logs taken in before it was kept. */
  by?: readonly ShownBy[];
}

/** Usual lengths of claimed pulses, s. */
const PULSES_S = [1, 2, 5, 10, 15, 20, 30, 60, 120, 180, 300, 600];

/** What rows `from` to `to` had shown at the first reading at or after each usual length. */
function shownBy({ timeS, voltageV, temperatureC }: Trace, from: number, to: number): ShownBy[] {
  const shown: ShownBy[] = [];
  let [lowestV, maxC, next] = [Infinity, -Infinity, 0];
  for (let row = from; row <= to && next < PULSES_S.length; row++) {
    const afterS = timeS[row]! - timeS[from]!;
    const celsius = temperatureC?.[row] ?? NaN;
    lowestV = Math.min(lowestV, voltageV[row]!);
    if (Number.isFinite(celsius)) maxC = Math.max(maxC, celsius);
    if (afterS < PULSES_S[next]!) continue;
    while (next < PULSES_S.length && afterS >= PULSES_S[next]!) next++;
    shown.push({ afterS, lowestV, maxC: Number.isFinite(maxC) ? maxC : null });
  }
  return shown;
}

/** Shorter stretches tell nothing of a current that was kept, s. */
const LEAST_S = 1;
/** So many stretches of a log are kept, the strongest currents first. */
const MOST = 24;

/**
 * Currents a log shows as kept, strongest first: what a claimed highest current is held against
 * (handbook, chapter 5). A current that wanders from where it began by a tenth begins a new one.
 */
export function sustainedCurrents(trace: Trace, sections: readonly Section[]): SustainedCurrent[] {
  const { currentA, timeS, voltageV } = trace;
  if (!currentA) return [];
  return sections
    .flatMap((section) => {
      if (section.kind !== 'charge' && section.kind !== 'discharge') return [];
      const { kind } = section;
      return currentLevels(currentA, section).flatMap(({ from, to }) => {
        const durationS = timeS[to]! - timeS[from]!;
        if (durationS < LEAST_S) return [];
        const ah = chargeBetween(trace, from, to);
        let lowestV = Infinity;
        for (let row = from; row <= to; row++) lowestV = Math.min(lowestV, voltageV[row]!);
        return [
          {
            kind,
            currentA: (ah * 3600) / durationS,
            durationS,
            ah,
            sectionAh: section.ah,
            lowestV,
            maxTemperatureC: temperatureSummary(trace, from, to)?.maxC ?? null,
            by: shownBy(trace, from, to),
          },
        ];
      });
    })
    .sort((a, b) => b.currentA - a.currentA)
    .slice(0, MOST);
}
