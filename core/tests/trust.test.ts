import { describe, expect, it } from 'vitest';
import { falseShares, trustOf } from '../testing/trust';

describe('from file to verdict, 400 simulated cells, a tenth of the runs with a fault', () => {
  it('false verdicts stay below 2.5 % each of those decided, and 3 % of sound results are held', () => {
    const { all, sound, byFault } = trustOf(1, 400, 3);
    const shares = falseShares(all);
    expect(all.cells).toBe(400);
    expect(all.outcomes.met + all.outcomes.notMet).toBeGreaterThan(80);
    expect(shares.met).toBeLessThanOrEqual(0.025);
    expect(shares.notMet).toBeLessThanOrEqual(0.025);
    expect(sound.outcomes.held / sound.cells).toBeLessThanOrEqual(0.03);
    // What is broken does not get through.
    const wild = byFault.get('wildChannel')!;
    expect(wild.outcomes.held).toBe(wild.cells);
    const dead = byFault.get('deadCounter')!;
    expect(dead.outcomes.held).toBeGreaterThan(0.8 * dead.cells);
    for (const fault of ['hole', 'stoppedEarly', 'clock'])
      expect(byFault.get(fault)!.falseMet + byFault.get(fault)!.falseNotMet).toBe(0);
  });
});
