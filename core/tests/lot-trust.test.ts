import { describe, expect, it } from 'vitest';
import {
  equalSuppliersTrust,
  retestTrust,
  skewedTrust,
  toleranceTrust,
  typicalTrust,
} from '../testing/lot-trust';

describe('what a lot may say that is not so, by simulation', () => {
  it.each([8, 60, 240])('a typical claim that is just true: %i cells', (cells) => {
    const { met, notMet, bare } = typicalTrust(300, cells, 3);
    expect(met).toBeLessThan(0.045);
    expect(notMet).toBeLessThan(0.045);
    // By the scatter alone a large lot would be judged wrongly far more often.
    if (cells === 240) expect(bare).toBeGreaterThan(0.3);
  });
  it.each([10, 60, 240])('the tolerance limit of a lot of %i holds what it states', (cells) => {
    expect(toleranceTrust(cells > 100 ? 100 : 200, cells, 4)).toBeGreaterThan(0.9);
  });
  it('lots of one hump are called mixed in at most 2 %', () => {
    for (const [name, share] of Object.entries(skewedTrust(150, 60, 5)))
      expect([name, share <= 0.02]).toEqual([name, true]);
  });
  it.each([0.001, 0.01, 0.02])(
    'a sample of lots %f short is accepted as often as the lab states, first results counting',
    (shareShort) => {
      const { first, best, stated } = retestTrust(800, shareShort, 8);
      expect(Math.abs(first - stated)).toBeLessThan(0.05);
      // Testing short ones again until they pass would let far more through.
      expect(best).toBeGreaterThan(first + 0.05);
    },
  );
  it.each([2, 4])('four equal suppliers of %i lots each are hardly ever told apart', (lots) => {
    expect(equalSuppliersTrust(150, lots, 6)).toBeLessThanOrEqual(0.07);
  });
});
