import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { CLAIM_KINDS, type ClaimConditions } from '../src/arrivals';
import { medianInterval, seededRandom } from '../src/statistics';
import {
  assessCell,
  type CellEvidence,
  disputeDeadline,
  judgeQuantity,
  judgeTypical,
  LOT_ITEMS,
} from '../src/verdicts';
import { assess, capacity, claimed, evidence, exact } from '../testing/assessed';

describe('highest currents', () => {
  const kept = { kind: 'charge' as const, currentA: 52, durationS: 3600, ah: 90, sectionAh: 103 };
  const charge = { ...kept, lowestV: 3, maxTemperatureC: 31.2 };
  const load = {
    kind: 'discharge' as const,
    currentA: 104,
    durationS: 3500,
    ah: 100,
    sectionAh: 100,
    lowestV: 2.5,
    maxTemperatureC: 44,
  };
  it('charge: four fifths at constant current, and no heat', () => {
    const at = (more: Partial<CellEvidence>) =>
      assess(claimed('maxCharge', 52), { capacities: [capacity(104)], ...more });
    expect(at({ currents: [charge] })).toMatchObject({ state: 'met' });
    expect(at({ currents: [{ ...charge, ah: 80 }] })).toMatchObject({ state: 'notMet' });
    expect(at({ currents: [{ ...charge, ah: 50, sectionAh: 55 }] })).toMatchObject({
      what: ['a charge at this current from empty'],
    });
    expect(at({ currents: [charge], heatAlarm: 'it heated on charge' })).toMatchObject({
      state: 'notMet',
    });
    expect(at({ currents: [{ ...charge, currentA: 50 }] }).state).toBe('waitingFor');
    expect(at({ currents: [charge], capacities: [] })).toMatchObject({ what: ['a capacity test'] });
  });
  it('discharge: down to the cut-off, or as long as the pulse, below 60 °C', () => {
    const at = (conditions: ClaimConditions, ...currents: CellEvidence['currents'][number][]) =>
      assess(claimed('maxDischarge', 104, { cutoffV: 2.5, ...conditions }), { currents });
    expect(at({}, load).state).toBe('met');
    expect(at({}, { ...load, maxTemperatureC: 61 }).state).toBe('notMet');
    expect(at({}, { ...load, maxTemperatureC: null })).toMatchObject({
      what: ['the temperature under this load'],
    });
    expect(at({}, { ...load, lowestV: 2.9 }).state).toBe('waitingFor');
    const blow = { ...load, durationS: 4, ah: 0.1, lowestV: 2.4 };
    expect(
      assess(claimed('maxDischarge', 104, { cutoffV: 2.5 }), {
        currents: [blow],
        capacities: [capacity(104)],
      }).state,
    ).toBe('waitingFor');
    expect(at({ pulseS: 10 }, { ...load, durationS: 12, lowestV: 2.9 }).state).toBe('met');
    expect(at({ pulseS: 10 }, { ...load, durationS: 4, lowestV: 2.3 })).toMatchObject({
      state: 'notMet',
    });
  });
});

describe('all items', () => {
  const items = CLAIM_KINDS.map((kind) =>
    claimed(
      kind,
      ['grade', 'condition', 'size', 'producedAfter'].includes(kind) ? '2026-01-01' : 9,
    ),
  );
  it('are each told once, those of the lot by the lot', () => {
    const { items: told } = assessCell(evidence(), items, 1);
    expect(told.map(({ item }) => item)).toEqual(
      CLAIM_KINDS.filter((kind) => !LOT_ITEMS.includes(kind)),
    );
    expect(told.every(({ state }) => state !== 'notClaimed')).toBe(true);
  });
  it('law: the order of evidence and claim changes nothing', () => {
    const results = fc.array(
      fc.record({ value: fc.double({ min: 80, max: 120, noNaN: true }), held: fc.boolean() }),
      { maxLength: 5 },
    );
    fc.assert(
      fc.property(results, (many) => {
        const capacities = many.map(({ value, held }, order) =>
          capacity(value, { order, held, holds: held ? [{ rule: 'r', text: 't' }] : [] }),
        );
        const one = assessCell(evidence({ capacities }), items, 1);
        const other = assessCell(
          evidence({ capacities: [...capacities].reverse() }),
          [...items].reverse(),
          1,
        );
        expect(other.items).toEqual(one.items);
        expect(one.counting?.held ?? false).toBe(false);
      }),
    );
  });
});

describe('the whole lot', () => {
  const described = (values: number[]) =>
    values.map((value, i) => ({ ...exact(value, 0.1), cell: `${i}`, state: 'described' as const }));
  it('meets a typical capacity by its mean, a typical resistance by its median', () => {
    const values = [104.1, 104.6, 104.9, 105.2, 104.4, 104.8];
    expect(judgeTypical('capacity', 104, described(values)).state).toBe('met');
    expect(judgeTypical('capacity', 104.6, described(values)).state).toBe('tooClose');
    expect(judgeTypical('capacity', 106, described(values)).state).toBe('notMet');
    expect(judgeTypical('acResistance', 106, described(values)).state).toBe('met');
    expect(judgeTypical('acResistance', 104, described(values)).state).toBe('notMet');
    expect(judgeTypical('capacity', 104, described(values.slice(0, 4))).state).toBe('waitingFor');
  });
  it('law: a median’s interval holds the true median in 95 % of samples and more', () => {
    const random = seededRandom(11);
    for (const n of [6, 9, 20, 51]) {
      let inside = 0;
      for (let i = 0; i < 1500; i++) {
        const { low, high } = medianInterval(
          Array.from({ length: n }, () => Math.exp(random.normal())),
        )!;
        if (low <= 1 && 1 <= high) inside++;
      }
      expect(inside / 1500).toBeGreaterThan(0.94);
    }
    expect(medianInterval([1, 2, 3, 4, 5])).toBeNull();
    expect(medianInterval([6, 2, 3, 4, 5, 1])).toEqual({ low: 1, high: 6 });
  });
  it('is counted, and has its days to complain in', () => {
    expect(judgeQuantity(96, 95).state).toBe('notMet');
    expect(judgeQuantity(96, null).state).toBe('waitingFor');
    expect(disputeDeadline(14, '2026-02-20')).toMatchObject({
      state: 'deadline',
      on: '2026-03-06',
    });
    expect(disputeDeadline(14, null).state).toBe('waitingFor');
  });
});
