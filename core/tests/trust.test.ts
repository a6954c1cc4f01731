import { describe, expect, it } from 'vitest';
import { falseShares, type Outcome, trustOf } from '../testing/trust';
import { type Fault, FAULTS } from '../testing/trust-bench';

describe('each fault by itself, 24 simulated cells', () => {
  /** What must not decide, and what is held. */
  const NEVER_DECIDED: Partial<Record<Fault, Outcome>> = {
    setBack: 'held',
    deadCounter: 'held',
    wildChannel: 'held',
    chargedInHole: 'tooClose',
    noRate: 'notComparable',
  };
  it.each(FAULTS.filter((fault) => fault !== 'swapped'))('%s', (fault) => {
    const { all } = trustOf(1, 24, 17, fault);
    expect([fault, all.falseMet, all.falseNotMet]).toEqual([fault, 0, 0]);
    const only = NEVER_DECIDED[fault];
    if (only) expect(all.outcomes[only]).toBe(all.cells);
  });
});

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
    const wild = byFault.get('wildChannel');
    if (wild) expect(wild.outcomes.held).toBe(wild.cells);
    const dead = byFault.get('deadCounter');
    if (dead) expect(dead.outcomes.held).toBeGreaterThan(0.8 * dead.cells);
    for (const fault of ['hole', 'stoppedEarly', 'clock']) {
      const count = byFault.get(fault);
      if (count) expect(count.falseMet + count.falseNotMet).toBe(0);
    }
  });
});
