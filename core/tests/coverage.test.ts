import { describe, expect, it } from 'vitest';
import { COVERAGE_CASES, coverageOf } from '../testing/coverage';

/** Fewer draws than `npm run bench -- coverage`, which makes 5 000; wider by their chance. */
const DRAWS = 400;
const CHANCE = 3 * Math.sqrt((0.93 * 0.07) / DRAWS);

describe('±2u holds the true capacity in 93 to 99.9 % of draws', () => {
  it.each(COVERAGE_CASES)('$name', (one) => {
    const { coverage, normalised, open } = coverageOf(one, DRAWS, 7);
    expect(coverage).toBeGreaterThan(0.93 - CHANCE);
    // Too wide is dishonest, too: errors have to fill what is stated.
    expect(normalised).toBeGreaterThan(0.5);
    expect(normalised).toBeLessThan(1.25);
    expect(open).toBeLessThan(one.stops ? 0.15 : 0.001);
  });
});
