import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  averageSampleNumber,
  hypergeometricAtMost,
  planByRisk,
  type SequentialPlan,
  sequentialOutlook,
  sequentialPlan,
  sequentialState,
} from '../src/arrivals';
import { seededRandom } from '../src/statistics';

const RISKS = { goodShare: 0.01, producerRisk: 0.05, badShare: 0.08, consumerRisk: 0.1 };

/** A plan that stops early, of the fixed one by two risks. */
function planOf(lotSize: number, risks = RISKS): SequentialPlan {
  const fixed = planByRisk({ lotSize, ...risks });
  const { sampleSize, acceptance, goodMarked, badMarked } = fixed;
  return sequentialPlan({
    lotSize,
    sampleSize,
    acceptance,
    goodMarked,
    badMarked,
    producerRisk: risks.producerRisk,
    consumerRisk: risks.consumerRisk,
  });
}

/** Cells of a lot in a drawn order, short ones as true. */
function drawn(
  lotSize: number,
  marked: number,
  random: ReturnType<typeof seededRandom>,
): boolean[] {
  const cells = Array.from({ length: lotSize }, (_, i) => i < marked);
  for (let i = lotSize - 1; i > 0; i--) {
    const j = Math.floor(random.uniform() * (i + 1));
    [cells[i], cells[j]] = [cells[j]!, cells[i]!];
  }
  return cells;
}

describe('a plan that is drawn on after each result', () => {
  it('keeps both stated risks exactly, for lots of every size', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 30, max: 400 }),
        fc.constantFrom(0.005, 0.01, 0.02),
        fc.constantFrom(0.08, 0.12, 0.2),
        (lotSize, goodShare, badShare) => {
          const plan = planOf(lotSize, { ...RISKS, goodShare, badShare });
          expect(plan.exactProducerRisk).toBeLessThanOrEqual(0.05 + 1e-9);
          expect(plan.exactConsumerRisk).toBeLessThanOrEqual(0.1 + 1e-9);
          expect(plan.exactProducerRisk).toBeCloseTo(
            sequentialOutlook(plan, plan.goodMarked).reject,
            12,
          );
        },
      ),
      { seed: 3, numRuns: 60 },
    );
  });

  it('always decides, and accepts the less the more are short', () => {
    const plan = planOf(240);
    let before = 1;
    for (let marked = 0; marked <= 60; marked++) {
      const { accept, reject, tests } = sequentialOutlook(plan, marked);
      expect(accept + reject).toBeCloseTo(1, 9);
      expect(accept).toBeLessThanOrEqual(before + 1e-12);
      expect(tests).toBeLessThanOrEqual(plan.sampleSize);
      before = accept;
    }
  });

  it('without Wald’s boundaries is the fixed plan, curtailed: the same chances, fewer tests', () => {
    const { lotSize, sampleSize, acceptance } = planOf(240);
    const limits = Array.from({ length: sampleSize }, (_, i) => ({
      acceptAtMost: Math.max(-1, acceptance - (sampleSize - i - 1)),
      rejectAtLeast: acceptance + 1,
    }));
    for (const marked of [0, 2, 10, 24, 60])
      expect(sequentialOutlook({ lotSize, limits }, marked).accept).toBeCloseTo(
        hypergeometricAtMost(acceptance, { population: lotSize, marked, sample: sampleSize }),
        9,
      );
    expect(sequentialOutlook({ lotSize, limits }, 60).tests).toBeLessThan(sampleSize / 2);
  });

  it('does in simulation what it says: chances and number of tests, at 0 and 10 % short', () => {
    const plan = planOf(240);
    const random = seededRandom(77);
    for (const marked of [0, 24]) {
      let [accepted, tests] = [0, 0];
      const RUNS = 4000;
      for (let run = 0; run < RUNS; run++) {
        const cells = drawn(240, marked, random);
        let m = 0;
        let state = sequentialState(plan, []);
        while (state.decision === 'goOn') state = sequentialState(plan, cells.slice(0, ++m));
        tests += m;
        accepted += Number(state.decision === 'accept');
      }
      const said = sequentialOutlook(plan, marked);
      expect(Math.abs(accepted / RUNS - said.accept)).toBeLessThan(0.03);
      expect(Math.abs(tests / RUNS - said.tests)).toBeLessThan(0.7);
      expect(said.tests).toBeLessThan(0.9 * plan.sampleSize);
    }
  });

  it('says how few results could decide, and never more than it takes', () => {
    const plan = planOf(240);
    fc.assert(
      fc.property(fc.array(fc.boolean(), { maxLength: plan.sampleSize - 1 }), (results) => {
        const { decision, toAccept, toReject } = sequentialState(plan, results);
        if (decision !== 'goOn') return;
        if (toAccept !== null) {
          const good = Array<boolean>(toAccept).fill(false);
          expect(sequentialState(plan, [...results, ...good]).decision).toBe('accept');
          expect(sequentialState(plan, [...results, ...good.slice(1)]).decision).toBe('goOn');
        }
        if (toReject !== null) {
          const short = Array<boolean>(toReject).fill(true);
          expect(sequentialState(plan, [...results, ...short]).decision).toBe('reject');
        }
        expect(toAccept ?? toReject).not.toBeNull();
      }),
      { seed: 8, numRuns: 300 },
    );
  });

  it('once decided stays so, whatever else is tested', () => {
    const plan = planOf(240);
    const { toAccept } = sequentialState(plan, []);
    const enough = Array<boolean>(toAccept!).fill(false);
    expect(sequentialState(plan, [...enough, true, true, true, true, true]).decision).toBe(
      'accept',
    );
  });

  it('is drawn beforehand as expected tests against percent short', () => {
    const plan = planOf(240);
    const curve = averageSampleNumber(plan);
    expect(curve[0]).toMatchObject({ percentShort: 0, accept: 1 });
    for (const { percentShort, tests } of curve)
      expect(tests).toBeCloseTo(
        sequentialOutlook(plan, Math.round((percentShort * 240) / 100)).tests,
        9,
      );
  });

  it('refuses what is no plan', () => {
    const good = { ...planOf(240) };
    expect(() => sequentialPlan({ ...good, sampleSize: 300 })).toThrow(/sample of the lot/);
    expect(() => sequentialPlan({ ...good, badMarked: good.goodMarked })).toThrow(/more short/);
    expect(() => sequentialPlan({ ...good, consumerRisk: 1e-9 })).toThrow(/does not keep/);
  });
});
