import { apartShare, type Finding } from '../units';

/** One way the same discharge was counted. */
export interface ChargeWay {
  way: 'integrated' | 'counter' | 'typed';
  ah: number;
  /** Expanded uncertainty, Ah; null where nothing is known. */
  expandedAh: number | null;
}

/** The ways a charge was counted, side by side (handbook, chapter 2). */
export interface ChargeComparison {
  ways: ChargeWay[];
  /** Largest difference over their mean, as a share. */
  apart: number;
  findings: Finding[];
}

/** Difference of two counts of one discharge that is worth a finding (handbook, chapter 3). */
const WORTH_A_FINDING = 0.005;
const WORDS: Record<ChargeWay['way'], string> = {
  integrated: 'the integrated current',
  counter: 'the instrument’s counter',
  typed: 'the value typed off the tester',
};

/**
 * Integrated, counted and typed charge of one discharge side by side (handbook, chapter 3). Null
 * with fewer than two of them.
 * @example compareCharges([{ way: 'integrated', ah: 101, expandedAh: 0.5 }, { way: 'counter', ah: 99, expandedAh: null }]).apart // 0.02
 */
export function compareCharges(ways: readonly ChargeWay[]): ChargeComparison | null {
  if (ways.length < 2) return null;
  const findings: Finding[] = [];
  let apart = 0;
  ways.forEach((a, i) =>
    ways.slice(i + 1).forEach((b) => {
      const difference = apartShare(a.ah, b.ah);
      apart = Math.max(apart, difference);
      if (difference <= WORTH_A_FINDING) return;
      findings.push({
        code: b.way === 'typed' || a.way === 'typed' ? 'typed-disagrees' : 'counter-disagrees',
        text: `${sentence(WORDS[a.way])} gives ${a.ah.toFixed(3)} Ah, ${WORDS[b.way]} ${b.ah.toFixed(3)} Ah: ${(100 * difference).toFixed(1)} % apart.${reasonOf(difference)}`,
        severity: 'warning',
      });
    }),
  );
  return { ways: [...ways], apart, findings };
}

const sentence = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);

/** Slips that make differences of a recognisable size. */
function reasonOf(difference: number): string {
  if (difference > 1.9) return ' Is one of them in mAh?';
  if (difference > 0.3)
    return ' That is more than a meter’s error: another run, another cut-off, or a counter not zeroed?';
  return '';
}
