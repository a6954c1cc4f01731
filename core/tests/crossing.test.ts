import { describe, expect, it } from 'vitest';
import { cutSections, mainDischarge } from '../src/evidence';
import { lineCrossing } from '../src/evidence/crossing';
import { RunningTotals } from '../src/evidence/running-totals';
import { seededRandom } from '../src/statistics';
import { bareTrace } from '../testing/trace-of';

/** A discharge at 1 A whose voltage over charge is a parabola, logged at uneven times. */
function parabola(seed: number, { slope, bend }: { slope: number; bend: number }) {
  const { uniform } = seededRandom(seed);
  const n = 400;
  const timeS = new Float64Array(n);
  // Rows lie denser and denser, or further and further apart, and never regularly.
  const drift = (uniform() - 0.5) * 1.6;
  for (let i = 1; i < n; i++)
    timeS[i] = timeS[i - 1]! + 8 * (1 + drift * (i / n)) * (0.4 + 1.2 * uniform());
  const voltageOf = (ah: number) => 3.2 - slope * ah - bend * ah * ah;
  const voltageV = Float64Array.from(timeS, (t) => voltageOf(t / 3600));
  const trace = bareTrace(
    { timeS, voltageV, currentA: new Float64Array(n).fill(-1) },
    { timeS: 3, voltageV: 6 },
  );
  const totals = new RunningTotals(trace, mainDischarge(cutSections(trace))!, 0);
  const at = Math.floor(n * 0.6);
  const cutoffV = (voltageV[at]! + voltageV[at + 1]!) / 2;
  const trueAh = (-slope + Math.sqrt(slope * slope + 4 * bend * (3.2 - cutoffV))) / (2 * bend);
  return { totals, at, cutoffV, trueAh };
}

describe('the line laid over the crossing', () => {
  it.each([
    { slope: 0.3, bend: 1.5 },
    { slope: 0.05, bend: 0.8 },
    { slope: 1.2, bend: 0.4 },
  ])('misses a parabola by as much as it says the bend moves it, however rows lie: %j', (curve) => {
    for (let seed = 1; seed <= 120; seed++) {
      const { totals, at, cutoffV, trueAh } = parabola(seed, curve);
      const found = lineCrossing(totals, at, cutoffV, 0.004)!;
      const share = Math.abs(found.ah - trueAh) / found.bendAh;
      expect(share).toBeGreaterThan(0.8);
      expect(share).toBeLessThan(1.1);
    }
  });

  it('meets a straight fall where it is, and says no bend', () => {
    for (let seed = 1; seed <= 40; seed++) {
      const { totals, at, cutoffV } = parabola(seed, { slope: 0.4, bend: 1e-9 });
      const found = lineCrossing(totals, at, cutoffV, 0.004)!;
      expect(found.ah).toBeCloseTo((3.2 - cutoffV) / 0.4, 7);
      expect(found.bendAh).toBeLessThan(1e-6);
      expect(found.perVolt).toBeCloseTo(1 / 0.4, 6);
      expect(found.by).toBe('line');
    }
  });

  it('of a voltage that rises it says nothing', () => {
    const { totals, at } = parabola(3, { slope: -0.4, bend: 1e-9 });
    expect(lineCrossing(totals, at, 3.25, 0.004)).toBeNull();
  });
});
