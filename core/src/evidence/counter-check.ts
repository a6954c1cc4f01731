import { apartShare, type Finding } from '../units';
import type { Discharge } from './sections';
import type { Trace } from './trace';

/** What the instrument's own charge counter says of a discharge. */
export interface CounterCheck {
  /** Charge by the counter over the discharge, Ah, its start subtracted. */
  ah: number;
  /** What the counter held before load-on, Ah. */
  startAh: number;
  findings: Finding[];
}

/** Difference of counter and integral that is worth a finding (handbook, chapter 3). */
const DISAGREEMENT = 0.005;

/**
 * Compares the instrument's counter with the integrated current, and notices a counter
 * that was not at zero when the run began.
 * @param integratedAh charge by integration over the same discharge; null without current.
 */
export function checkCounter(
  trace: Trace,
  discharge: Discharge,
  integratedAh: number | null,
): CounterCheck | null {
  const { counterAh } = trace;
  const first = discharge.sections[0];
  const last = discharge.sections[discharge.sections.length - 1];
  if (!counterAh || !first || !last) return null;
  const findings: Finding[] = [];
  const startAh = Math.abs(counterAh[0]!);
  const ah = discharge.sections.reduce(
    (sum, section) => sum + Math.abs(counterAh[section.toIndex]! - counterAh[section.fromIndex]!),
    0,
  );
  if (startAh > Math.max(0.002, 0.002 * ah) && first.fromIndex < 50) {
    findings.push({
      code: 'counter-not-zeroed',
      text: `The counter stood at ${startAh.toFixed(3)} Ah when the log began; that was subtracted.`,
      severity: 'warning',
    });
  }
  // A counter that nobody believes over a hole is said by the hole; here the rows are compared.
  const holed = discharge.sections.some(({ holes }) => holes?.some((hole) => hole.ah === null));
  if (
    integratedAh !== null &&
    !holed &&
    Math.abs(ah - integratedAh) > DISAGREEMENT * integratedAh
  ) {
    findings.push({
      code: 'counter-disagrees',
      text: `The counter says ${ah.toFixed(3)} Ah, the integrated current ${integratedAh.toFixed(3)} Ah: ${(100 * apartShare(ah, integratedAh)).toFixed(2)} % apart.`,
      severity: 'warning',
    });
  }
  return { ah, startAh, findings };
}
