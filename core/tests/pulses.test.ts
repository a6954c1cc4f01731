import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  type Accuracy,
  cutSections,
  type FigureOrReason,
  type Lead,
  leadOf,
  LOAD_ON_DELAYS_S,
  type LoadOnDelayS,
  loadOnResistance,
  mainDischarge,
  type Trace,
  twoStepResistance,
} from '../src/evidence';
import { normals } from '../testing/normals';
import { type Row, traceOf } from '../testing/trace-of';

const METER: Accuracy = {
  currentGainPct: 0.5,
  currentOffsetA: 0.02,
  voltageGainPct: 0.1,
  voltageOffsetV: 0.005,
  timePpm: 50,
  source: 'test',
};

/** A cell under load: an ohmic step, diffusion as √t, emptying as t; mΩ, mΩ/√s, mΩ/s. */
interface Cell {
  ohmic: number;
  diffusion: number;
  emptying: number;
}
const at = ({ ohmic, diffusion, emptying }: Cell, s: number): number =>
  ohmic + diffusion * Math.sqrt(s) + emptying * s;

/** Rest, then a load that comes on at once. */
function loadOn(
  cell: Cell,
  amps: number,
  {
    restS = 60,
    loadS = 200,
    everyS = 0.1,
    restV = (before: number) => 3.3 - 0 * before,
    noise = (): number => 0,
    decimals = 6,
  } = {},
): Trace {
  const rows: Row[] = [];
  for (let t = -restS; t < 0; t += everyS) rows.push({ t, v: restV(-t) + noise(), i: 0 });
  for (let t = 0; t <= loadS + 1e-9; t += everyS)
    rows.push({ t, v: restV(0) - (amps * at(cell, t)) / 1000 + noise(), i: -amps });
  return traceOf(
    rows.map(({ t, v, i }) => ({ t: t + restS, v, i })),
    { timeS: 2, voltageV: decimals },
  );
}

const loaded = (trace: Trace, delayS: LoadOnDelayS, lead?: Lead): FigureOrReason =>
  loadOnResistance(trace, mainDischarge(cutSections(trace)), delayS, METER, lead);
const figureOf = (outcome: FigureOrReason) => {
  expect(outcome.reason).toBeUndefined();
  return outcome.figure!;
};

const cells = fc.record({
  ohmic: fc.double({ min: 0.2, max: 40, noNaN: true }),
  diffusion: fc.double({ min: 0, max: 1, noNaN: true }),
  emptying: fc.double({ min: 0, max: 0.02, noNaN: true }),
});
const currents = fc.double({ min: 2, max: 100, noNaN: true });
const delays = fc.constantFrom(...LOAD_ON_DELAYS_S);
const CELL: Cell = { ohmic: 0.8, diffusion: 0.05, emptying: 0.001 };

describe('resistance from the moment a load comes on', () => {
  it('is the step, the diffusion and the emptying up to the delay, whatever the cell', () => {
    fc.assert(
      fc.property(cells, currents, delays, (cell, amps, delayS) => {
        const { value, unit, bound } = figureOf(loaded(loadOn(cell, amps), delayS));
        // Load-on is taken in the middle of the interval it lies in: here half of one early.
        expect(value / at(cell, delayS - 0.05)).toBeCloseTo(1, 3);
        expect([unit, bound]).toEqual(['mΩ', 'exact']);
      }),
      { numRuns: 60, seed: 28 },
    );
  });

  it('grows with the delay, where the cell goes on falling', () => {
    const trace = loadOn(CELL, 20);
    const [one, ten, thirty] = LOAD_ON_DELAYS_S.map((s) => figureOf(loaded(trace, s)).value);
    expect(one!).toBeLessThan(ten!);
    expect(ten!).toBeLessThan(thirty!);
  });

  it('does not know where zero volts are, nor when the clock began', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -1, max: 1, noNaN: true }),
        fc.integer({ min: 0, max: 100_000 }),
        delays,
        (offsetV, shiftS, delayS) => {
          const trace = loadOn(CELL, 20);
          const moved = {
            ...trace,
            voltageV: trace.voltageV.map((v) => v + offsetV),
            timeS: trace.timeS.map((t) => t + shiftS),
          };
          expect(figureOf(loaded(moved, delayS)).value).toBeCloseTo(
            figureOf(loaded(trace, delayS)).value,
            6,
          );
        },
      ),
      { numRuns: 40, seed: 28 },
    );
  });

  it('has the leads taken off, and their uncertainty added as squares', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.1, max: 20, noNaN: true }),
        fc.option(fc.double({ min: 0.001, max: 2, noNaN: true }), { nil: undefined }),
        (mohm, typedU) => {
          const lead = leadOf(mohm, typedU);
          const trace = loadOn({ ...CELL, ohmic: CELL.ohmic + mohm }, 20);
          const bare = figureOf(loaded(trace, 10));
          const less = figureOf(loaded(trace, 10, lead));
          expect(less.value).toBeCloseTo(bare.value - mohm, 9);
          expect(less.value).toBeCloseTo(at(CELL, 9.95), 4);
          const part = less.budget.find(({ kind }) => kind === 'leadResistance')!;
          expect(part.standardUncertainty).toBe(typedU ?? lead.standardUncertaintyMohm);
          const others = less.budget.filter((one) => one !== part);
          expect(less.standardUncertainty).toBeCloseTo(
            Math.hypot(
              part.standardUncertainty,
              ...others.map(({ standardUncertainty }) => standardUncertainty),
            ),
            12,
          );
        },
      ),
      { numRuns: 40, seed: 28 },
    );
    // Nothing said of a lead is no lead; of its uncertainty, a tenth as limits.
    expect(leadOf()).toEqual({ mohm: 0, standardUncertaintyMohm: 0 });
    expect(leadOf(0, 3)).toEqual({ mohm: 0, standardUncertaintyMohm: 0 });
    expect(leadOf(3).standardUncertaintyMohm).toBeCloseTo(0.3 / Math.sqrt(3), 12);
  });

  it('of a cell that still relaxes takes the voltage it would have had at load-on', () => {
    // 0.2 mV a second up: the mean of the last readings would be 6 mV off, 0.6 mΩ at 10 A.
    const trace = loadOn(CELL, 10, { restV: (before) => 3.3 - 0.0002 * before });
    expect(figureOf(loaded(trace, 10)).value).toBeCloseTo(at(CELL, 9.95), 2);
  });

  it('±2u holds the true one in 93 % of draws or more, with a meter that scatters', () => {
    const normal = normals(41);
    let held = 0;
    for (let draw = 0; draw < 400; draw++) {
      const trace = loadOn(CELL, 20, { noise: () => 0.0008 * normal(), decimals: 4 });
      const { value, standardUncertainty } = figureOf(loaded(trace, 10));
      if (Math.abs(value - at(CELL, 9.95)) <= 2 * standardUncertainty!) held++;
    }
    expect(held).toBeGreaterThanOrEqual(372);
  });

  it('says why a log does not allow it', () => {
    const trace = loadOn(CELL, 20);
    const whole = mainDischarge(cutSections(trace))!;
    const reasons: [FigureOrReason, RegExp][] = [
      [loadOnResistance(trace, null, 10, METER), /no discharge/],
      [
        loadOnResistance(
          { ...trace, currentA: null },
          mainDischarge(cutSections(trace)),
          10,
          METER,
        ),
        /no current column/,
      ],
      [loaded(loadOn(CELL, 20, { restS: 0 }), 10), /No reading at rest/],
      [loaded(loadOn(CELL, 20, { everyS: 2 }), 1), /2(\.00)? s apart, not closer than 0.20 s/],
      [
        loadOnResistance(
          trace,
          { ...whole, sections: [{ ...whole.sections[0]!, toS: whole.sections[0]!.fromS + 29.8 }] },
          30,
          METER,
        ),
        /did not last 30 s/,
      ],
    ];
    for (const [outcome, words] of reasons) {
      expect(outcome.figure).toBeNull();
      expect(outcome.reason).toMatch(words);
    }
    // A log with a row a second allows the longer delays.
    expect(figureOf(loaded(loadOn(CELL, 20, { everyS: 1 }), 10)).value).toBeCloseTo(
      at(CELL, 9.5),
      2,
    );
  });

  it('a current that rises slowly gives none where it settles later than a fifth of the delay', () => {
    const slow = loadOn(CELL, 20);
    const from = slow.currentA!.findIndex((value) => value !== 0);
    for (const [rampS, delayS, given] of [
      [0.1, 1, true],
      [3, 1, false],
      [1, 10, true],
      [3, 10, false],
      [3, 30, true],
    ] as const) {
      const currentA = slow.currentA!.map((value, row) =>
        row < from ? value : value * Math.min(1, (0.1 * (row - from + 1)) / rampS),
      );
      const { figure, reason } = loaded({ ...slow, currentA }, delayS);
      expect([rampS, delayS, figure !== null]).toEqual([rampS, delayS, given]);
      if (!given) expect(reason).toMatch(/settle/);
    }
  });
});

describe('resistance of two steps', () => {
  /** `lowS` at the lower current, then `highS` at the higher one; the higher one’s drop at once. */
  const steps = (
    mohm: number,
    [low, high]: readonly [number, number],
    { lowS = 10, highS = 1, everyS = 0.1 } = {},
  ) => {
    const rows: Row[] = [];
    for (let t = 0; t < 5; t += everyS) rows.push({ t, v: 3.6, i: 0 });
    for (let k = 0; k < Math.round(lowS / everyS); k++)
      rows.push({ t: 5 + k * everyS, v: 3.6 - (low * mohm) / 1000, i: -low });
    for (let k = 0; k <= Math.round(highS / everyS); k++)
      rows.push({ t: 5 + lowS + k * everyS, v: 3.6 - (high * mohm) / 1000, i: -high });
    return traceOf(rows, { timeS: 2, voltageV: 6 });
  };
  const measured = (trace: Trace, lead?: Lead) =>
    twoStepResistance(trace, cutSections(trace), METER, lead);

  it('is what the voltage falls over what the current rises', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.5, max: 60, noNaN: true }),
        fc.double({ min: 0.2, max: 4, noNaN: true }),
        fc.double({ min: 2.5, max: 8, noNaN: true }),
        (mohm, low, times) => {
          const { value, inputs } = figureOf(measured(steps(mohm, [low, low * times])));
          expect(value).toBeCloseTo(mohm, 4);
          const [u1, u2, i1, i2] = inputs.map((input) => input.value as number);
          expect((1000 * (u1! - u2!)) / (i2! - i1!)).toBeCloseTo(value, 6);
        },
      ),
      { numRuns: 40, seed: 28 },
    );
  });

  it('has the leads taken off', () => {
    const trace = steps(9, [1, 5]);
    expect(figureOf(measured(trace, leadOf(2.5))).value).toBeCloseTo(6.5, 6);
  });

  it('is not read from steps that are no such pulse', () => {
    for (const trace of [
      steps(9, [1, 1.8]),
      steps(9, [1, 5], { lowS: 4 }),
      steps(9, [1, 5], { lowS: 40 }),
      steps(9, [1, 5], { highS: 8 }),
    ])
      expect(measured(trace).reason).toMatch(/no two-step pulse/);
    const bare = { ...steps(9, [1, 5]), currentA: null };
    expect(twoStepResistance(bare, [], METER).reason).toMatch(/no current column/);
  });
});
