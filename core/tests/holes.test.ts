import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  capacityToCutoff,
  figuresOfLog,
  holesWithin,
  readLog,
  unknownTesterAccuracy,
} from '../src/evidence';
import { seededRandom } from '../src/statistics';
import { holed } from '../testing/holed-log';

const folder = join(import.meta.dirname, '..', 'fixtures', 'samples', 'holes');
interface Truth {
  hole_ah: number;
  min_U_ah?: number;
  cutoffs: Record<string, { reached: boolean; ah?: number; ah_at_least?: number }>;
}
const truth = JSON.parse(readFileSync(join(folder, 'truth.json'), 'utf8')) as Record<string, Truth>;

const codes = (figure: { findings: { code: string }[] }) => figure.findings.map(({ code }) => code);

describe('logs with holes against their known truth', () => {
  it.each(Object.entries(truth))('%s, of a channel that can only load', (name, known) => {
    const { cutoffs, min_U_ah } = known;
    const log = readLog(new Uint8Array(readFileSync(join(folder, name))));
    for (const [cutoff, { reached, ah, ah_at_least }] of Object.entries(cutoffs)) {
      const { capacities } = figuresOfLog(log, {
        cutoffsV: [Number(cutoff)],
        accuracy: null,
        loadOnly: true,
      });
      const { capacity } = capacities![0]!;
      expect(capacity.bound).toBe(reached ? 'exact' : 'atLeast');
      expect(Math.abs(capacity.value / (ah ?? ah_at_least!) - 1)).toBeLessThan(0.001);
      expect(2 * capacity.standardUncertainty!).toBeGreaterThan(min_U_ah ?? 0);
    }
  });
});

describe('where the channel may have charged in a hole', () => {
  it.each(Object.entries(truth).filter(([, { cutoffs }]) => !Object.values(cutoffs)[0]!.reached))(
    '%s: at least what flowed up to the hole',
    (name, { cutoffs }) => {
      const log = readLog(new Uint8Array(readFileSync(join(folder, name))));
      const [cutoff, { ah_at_least }] = Object.entries(cutoffs)[0]!;
      const { capacities } = figuresOfLog(log, { cutoffsV: [Number(cutoff)], accuracy: null });
      const { capacity } = capacities![0]!;
      const { timeS, currentA, holes } = log.trace;
      let before = 0;
      for (let row = 1; timeS[row]! <= holes[0]!.fromS; row++)
        before -=
          ((currentA![row]! + currentA![row - 1]!) * (timeS[row]! - timeS[row - 1]!)) / 7200;
      expect(capacity.bound).toBe('atLeast');
      expect(Math.abs(capacity.value - before)).toBeLessThan(0.002);
      expect(capacity.value).toBeLessThan(ah_at_least!);
      expect(codes(capacity)).toContain('hole-not-counted');
    },
  );

  it('a cell charged for an hour in a hole never shows more than it holds', () => {
    for (let seed = 0; seed < 40; seed++) {
      const random = seededRandom(seed);
      const chargedAh = 0.3 + 1.2 * random.uniform();
      const made = holed({
        fromS: 2000 + 25_000 * random.uniform(),
        forS: 1200 + 6000 * random.uniform(),
        stood: true,
        chargedAh,
        chemistry: seed % 2 ? 'LFP' : 'NMC',
      });
      expect(made.capacity.bound).toBe('atLeast');
      expect(made.capacity.value - 2 * made.capacity.standardUncertainty!).toBeLessThan(
        made.trueAh - chargedAh,
      );
    }
  });
});

describe('a hole of hours', () => {
  it('5 h of a 9.5 h discharge at 1.2 A are never counted: no 11.4 Ah from a 6 Ah cell', () => {
    const { capacity, trueAh } = holed({ fromS: 9000, forS: 18_000, stood: true });
    expect(capacity.bound).toBe('atLeast');
    expect(capacity.value).toBeLessThan(trueAh * 1.003);
    expect(codes(capacity)).toContain('hole-not-counted');
  });

  it('what the counter says is counted, whether it stood still or went on', () => {
    for (const stood of [true, false]) {
      const { capacity, trueAh } = holed({ fromS: 9000, forS: 7200, stood, counter: 'spans' });
      expect(capacity.bound).toBe('exact');
      expect(Math.abs(capacity.value / trueAh - 1)).toBeLessThan(0.002);
      expect(capacity.budget.map(({ name }) => name)).toContain('hole counted');
    }
  });

  it('a counter that was reset in the hole, or never moved, is no witness', () => {
    for (const counter of ['resets', 'dead'] as const) {
      const { capacity } = holed({ fromS: 9000, forS: 7200, counter });
      expect(capacity.bound).toBe('atLeast');
    }
  });

  it('of a log of counters alone as much is believed as its pace beside the hole allows', () => {
    const log = { fromS: 9000, forS: 3600, countersOnly: true, counter: 'spans' } as const;
    const { capacity, trueAh } = holed(log);
    expect(capacity.bound).toBe('exact');
    expect(Math.abs(capacity.value - trueAh)).toBeLessThan(0.003);
    // 1.2 Ah may have flowed in the hour. A counter that went on by more counts something else.
    for (const counterJumpAh of [0.02, 0.1, 1.2]) {
      const jumped = holed({ ...log, counterJumpAh }).capacity;
      expect([counterJumpAh, jumped.bound]).toEqual([
        counterJumpAh,
        counterJumpAh < 0.05 ? 'exact' : 'atLeast',
      ]);
    }
  });
  it('a counter that was not zeroed gives the same, over a hole, too', () => {
    for (const [fromS, counter, chemistry] of [
      [9000, 'spans', 'LFP'],
      [31_000, 'spans', 'LFP'],
      [9000, 'resets', 'NMC'],
      [15_000, 'resets', 'NMC'],
      [20_000, 'resets', 'LFP'],
    ] as const) {
      const log = { fromS, forS: 3600, counter, chemistry, countersOnly: true } as const;
      const zeroed = holed(log).capacity;
      const begunAt = holed({ ...log, counterFromAh: 40 }).capacity;
      expect(begunAt.value).toBeCloseTo(zeroed.value, 6);
      expect(begunAt.bound).toBe(zeroed.bound);
      expect(begunAt.standardUncertainty).toBeCloseTo(zeroed.standardUncertainty!, 6);
      expect(codes(begunAt)).toEqual(codes(zeroed));
    }
  });

  it('over the knee: never exact, with or without a counter', () => {
    for (const counter of [undefined, 'spans'] as const)
      for (const countersOnly of counter ? [false, true] : [false]) {
        const { capacity, trueAh } = holed({
          fromS: 31_000,
          forS: 7200,
          counter,
          countersOnly,
        });
        expect(capacity.bound).toBe('atLeast');
        expect(capacity.value).toBeLessThan(trueAh);
      }
  });

  it('the voltage stood higher afterwards: only what flowed before counts', () => {
    const made = holed({ fromS: 20_000, forS: 3000 });
    const at = made.trace.timeS.findIndex((t) => t > 20_000);
    for (let row = at; row < made.trace.timeS.length; row++) made.trace.voltageV[row]! += 0.05;
    const { capacity } = capacityToCutoff(made.trace, made.discharge, {
      cutoffV: 2.5,
      accuracy: unknownTesterAccuracy(1.2),
    });
    expect(codes(capacity)).toContain('run-incomplete');
    expect(capacity.value).toBeCloseTo((1.2 * 19_705) / 3600, 1);
  });

  it('load that came on in a hole is only a lower bound', () => {
    const made = holed({ fromS: 200, forS: 1200 });
    expect(made.capacity.bound).toBe('atLeast');
    expect(codes(made.capacity)).toContain('load-in-hole');
  });

  it('is said in its section, with null where nothing says what flowed', () => {
    const { discharge } = holed({ fromS: 9000, forS: 18_000, stood: true });
    expect(discharge.sections[0]!.holes).toEqual([{ fromS: 9000, toS: 27_010, ah: null }]);
  });
});

describe('laws of holes', () => {
  const anywhere = fc.record({
    fromS: fc.integer({ min: 400, max: 34_000 }),
    forS: fc.integer({ min: 130, max: 20_000 }),
    stood: fc.boolean(),
    chemistry: fc.constantFrom('LFP' as const, 'NMC' as const),
    counter: fc.constantFrom(undefined, 'spans' as const, 'resets' as const, 'dead' as const),
  });

  it('no hole makes more of a cell than it holds, beyond what is stated', () => {
    fc.assert(
      fc.property(anywhere, (options) => {
        const { capacity, trueAh } = holed(options);
        expect(capacity.value - 2 * capacity.standardUncertainty!).toBeLessThanOrEqual(
          trueAh * 1.0005,
        );
      }),
      { numRuns: 60, seed: 12 },
    );
  });

  it('an exact result with a hole in it holds what is true within ±2u', () => {
    fc.assert(
      fc.property(anywhere, (options) => {
        const { capacity, trueAh } = holed(options);
        if (capacity.bound !== 'exact') return;
        expect(Math.abs(capacity.value - trueAh)).toBeLessThanOrEqual(
          2 * capacity.standardUncertainty! + 0.001 * trueAh,
        );
      }),
      { numRuns: 60, seed: 13 },
    );
  });

  it('nothing is counted twice: holes and rows together never exceed current times time', () => {
    fc.assert(
      fc.property(anywhere, (options) => {
        const { trace, discharge } = holed(options);
        const parts = discharge.sections.map(({ fromIndex, toIndex }) => ({
          from: fromIndex,
          to: toIndex,
        }));
        for (const hole of holesWithin(trace, parts))
          expect(hole.ah).toBeLessThanOrEqual((1.27 * (hole.toS - hole.fromS)) / 3600 + 0.003);
      }),
      { numRuns: 40, seed: 14 },
    );
  });
});
