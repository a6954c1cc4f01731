import { describe, expect, it } from 'vitest';
import { claimDifferences, programOf, type RecipeStep } from '../src/bench';
import { CONDITIONS } from '../testing/bench-conditions';
import { CHARGE, DISCHARGE } from '../testing/recipe-parts';

describe('what a run differs in from the claim', () => {
  const rest = { kind: 'rest', minutes: 60 } as const;
  const said = (steps: RecipeStep[], reach: Parameters<typeof claimDifferences>[2] = null) =>
    claimDifferences(programOf(steps, CONDITIONS), CONDITIONS, reach);
  const at = (more: object) => said([CHARGE, rest, { ...DISCHARGE, ...more } as RecipeStep]);
  const current = (it_: number) => ({ load: { by: 'current', current: { in: 'It', value: it_ } } });

  it('nothing where it is the claim’s own', () => expect(at({})).toEqual([]));
  it('no discharge says nothing about a capacity', () =>
    expect(said([CHARGE, rest])).toEqual([
      'It holds no discharge: it says nothing about the claimed capacity.',
    ]));
  it('power and resistors are no constant current', () => {
    for (const load of [
      { by: 'power', watts: 60 },
      { by: 'resistor', ohm: 0.15 },
    ])
      expect(at({ load })).toEqual([
        'It discharges at constant power or into a resistor; the claim is stated at a constant current.',
      ]);
  });
  it('another rate is corrected, one too far is not compared; within 2 % it is the same', () => {
    expect(at(current(0.203))).toEqual([]);
    expect(at(current(0.3))).toEqual([
      'It discharges at 0.30 It, the claim says 0.2 It: the result is corrected, with more uncertainty.',
    ]);
    expect(at(current(1.01))[0]).toContain('too far to be compared');
    expect(at(current(0.039))[0]).toContain('too far to be compared');
    expect(at(current(0.99))[0]).toContain('corrected');
  });
  it('a cut-off above gives at least, one below is read where the trace passes', () => {
    expect(at({ cutoffV: 2.505 })).toEqual([]);
    expect(at({ cutoffV: 2.8 })).toEqual([
      'It ends at 2.8 V, the claim at 2.5 V: the capacity will be at least what it shows.',
    ]);
    expect(at({ cutoffV: 2 })).toEqual([
      'It ends at 2 V, the claim at 2.5 V: the capacity is read where the trace passes the claim’s cut-off.',
    ]);
  });
  it('less than an hour of rest, or none, reads low', () => {
    const short = 'Less than an hour of rest after charging: a large cell can read about 1 % low.';
    expect(said([CHARGE, { kind: 'rest', minutes: 59 }, DISCHARGE])).toEqual([short]);
    expect(said([CHARGE, DISCHARGE])).toEqual([short]);
    expect(said([DISCHARGE])).toEqual([short]);
  });
  it('ending by charge or time never states a capacity', () => {
    const ranks =
      'It ends by charge or time before the cut-off: it ranks cells and never states a capacity.';
    expect(at({ limitAh: 104 })).toEqual([ranks]);
    // 104 Ah at 20.8 A take 5 h; 95 % of that is enough.
    expect(at({ maxHours: 4.74 })).toEqual([ranks]);
    expect(at({ maxHours: 4.76 })).toEqual([]);
  });
  it('what the channel does not reach is said, and counts for the rate', () => {
    const reach = {
      charge: { amps: 30, limit: 'its current' },
      discharge: { amps: 15.6, limit: 'its power' },
    } as unknown as NonNullable<Parameters<typeof claimDifferences>[2]>;
    expect(said([CHARGE, rest, DISCHARGE], reach)).toEqual([
      'The channel reaches 15.60 A (0.150 It) of the wanted 20.80 A, for its power.',
      'It discharges at 0.15 It, the claim says 0.2 It: the result is corrected, with more uncertainty.',
    ]);
  });
});
