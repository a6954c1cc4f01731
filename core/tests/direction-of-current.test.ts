import { describe, expect, it } from 'vitest';
import { cutSections, sustainedCurrents } from '../src/evidence';
import { signByMode, signCurrent, voltageMovement } from '../src/evidence/reading/sign-current';
import { RowMode, type Trace } from '../src/evidence/trace';
import type { Finding } from '../src/units';
import { type Row, traceOf } from '../testing/trace-of';

const rows = (...parts: Row[][]): Row[] => parts.flat().map((row, i) => ({ ...row, t: 10 * i }));
/** So many rows that move from one voltage to another at one current. */
const part = (n: number, i: number, fromV: number, toV: number): Row[] =>
  Array.from({ length: n }, (_, k) => ({ t: 0, v: fromV + ((toV - fromV) * k) / (n - 1), i }));
const rest = (v: number) => part(12, 0, v, v);

/** Signed as the lab has it, and what was said of it. */
function signed(trace: Trace): { currentA: number[]; said: string[] } {
  const findings: Finding[] = [];
  signCurrent(trace, findings);
  return { currentA: [...trace.currentA!], said: findings.map(({ code }) => code) };
}
const signs = ({ currentA }: { currentA: number[] }) =>
  currentA.map((value) => ({ '1': '+', '0': '.', '-1': '-' })[Math.sign(value)]).join('');

describe('which way the current flows', () => {
  const discharge = part(20, 20, 3.25, 2.6);
  const charge = part(20, 20, 3.3, 3.6);
  const whole = (out: 1 | -1, into: 1 | -1) =>
    rows(
      rest(3.3),
      discharge.map((row) => ({ ...row, i: out * row.i })),
      rest(2.9),
      charge.map((row) => ({ ...row, i: into * row.i })),
      rest(3.4),
    );
  const INSIDE = `${'.'.repeat(12)}${'-'.repeat(20)}${'.'.repeat(12)}${'+'.repeat(20)}${'.'.repeat(12)}`;

  it.each([
    ['discharge negative, as it is kept', -1, 1],
    ['discharge positive, turned', 1, -1],
    ['no direction at all, told by the voltage', 1, 1],
  ] as const)('%s', (_name, out, into) => {
    expect(signs(signed(traceOf(whole(out, into))))).toBe(INSIDE);
  });

  it('a column written negative throughout is never turned for a single stretch, and says so', () => {
    const { said, ...turned } = signed(traceOf(whole(-1, -1)));
    expect(signs(turned)).toBe(INSIDE.replaceAll('+', '-'));
    expect(said).toEqual(['voltage-against-current']);
    // Over the knee, after a hole, the voltage stands higher for a few rows: still a discharge.
    const rowsOf = rows(rest(3.3), part(30, -20, 3.25, 3.0), part(6, -20, 3.05, 3.08), rest(3.1));
    const trace = traceOf(rowsOf.map((row, i) => ({ ...row, t: row.t + (i >= 42 ? 7200 : 0) })));
    trace.holes = [{ fromS: 410, toS: 7620 }];
    expect(signs(signed(trace))).toBe(`${'.'.repeat(12)}${'-'.repeat(36)}${'.'.repeat(12)}`);
    expect(signed(trace).said).toEqual([]);
  });

  it('is said where a log has none, and only there', () => {
    expect(signed(traceOf(whole(1, 1))).said).toEqual(['unsigned-current']);
    expect(signed(traceOf(whole(-1, 1))).said).toEqual([]);
    expect(signed(traceOf(whole(1, -1))).said).toEqual([]);
    const chargeOnly = traceOf(rows(rest(3.2), charge, rest(3.4)));
    expect(signed(chargeOnly).said).toEqual([]);
    expect([...chargeOnly.currentA!].every((value) => value >= 0)).toBe(true);
  });

  it('by two signs the longer and stronger movement decides, not the first', () => {
    // A short charge that sags in the voltage stands against a long discharge.
    const odd = rows(
      rest(3.3),
      part(4, -5, 3.32, 3.315),
      rest(3.3),
      part(60, 20, 3.25, 2.5),
      rest(2.8),
    );
    expect(signs(signed(traceOf(odd))).slice(28, 88)).toBe('-'.repeat(60));
  });

  it('a step of the program or a hole begins a new stretch', () => {
    // Without a rest between them, discharge and charge of one unsigned current.
    const joined = rows(rest(3.3), discharge, charge, rest(3.4));
    const trace = traceOf(joined);
    trace.step = Float64Array.from(joined, (_, i) => (i < 12 ? 1 : i < 32 ? 2 : i < 52 ? 3 : 4));
    expect(signs(signed(trace)).slice(12, 52)).toBe('-'.repeat(20) + '+'.repeat(20));
    const holed = traceOf(joined.map((row, i) => ({ ...row, t: row.t + (i >= 32 ? 3600 : 0) })));
    holed.holes = [{ fromS: 310, toS: 3920 } as Trace['holes'][number]];
    expect(signs(signed(holed)).slice(12, 52)).toBe('-'.repeat(20) + '+'.repeat(20));
  });

  it('the row’s own words come before the voltage', () => {
    const trace = traceOf(whole(1, 1));
    const mode = Uint8Array.from(trace.timeS, () => RowMode.Unknown);
    // The words say the opposite of what the voltage does.
    mode.fill(RowMode.Charge, 12, 32);
    mode.fill(RowMode.Discharge, 44, 64);
    trace.mode = mode;
    expect(signs(signed(trace)).slice(12, 32)).toBe('+'.repeat(20));
    expect([...trace.currentA!].slice(44, 64).every((value) => value === -20)).toBe(true);
  });

  it('words that name neither charge nor discharge say nothing', () => {
    const trace = traceOf(whole(1, 1));
    trace.mode = Uint8Array.from(trace.timeS, () => RowMode.Rest);
    expect(signByMode(trace)).toBe(false);
    expect(signs(signed(trace))).toBe(INSIDE);
    expect(signByMode(traceOf(whole(1, 1)))).toBe(false);
  });

  it('rows of other words keep their sign', () => {
    const trace = traceOf(
      rows([{ t: 0, v: 3.3, i: -0.01 }], part(3, 20, 3.2, 3.1), [{ t: 0, v: 3.2, i: 0.02 }]),
    );
    trace.mode = Uint8Array.from([
      RowMode.Rest,
      RowMode.Discharge,
      RowMode.Discharge,
      RowMode.Discharge,
      RowMode.Unknown,
    ]);
    expect(signByMode(trace)).toBe(true);
    expect([...trace.currentA!]).toEqual([-0.01, -20, -20, -20, 0.02]);
  });

  it('how the voltage moved: the step at the start, the trend, the recovery turned round', () => {
    const volts = Float64Array.from([3.3, 3.2, 3.1, 3.0, 3.15]);
    // From 3.3 before to 3.0, and 0.15 V back afterwards.
    expect(voltageMovement(volts, 1, 3)).toBeCloseTo(-0.3 - 0.15, 12);
    expect(voltageMovement(volts, 0, 4)).toBeCloseTo(-0.15, 12);
    expect(voltageMovement(volts, 4, 4)).toBeCloseTo(0.15, 12);
  });
});

describe('currents that were kept', () => {
  /** Rest, 30 min at 20 A, 10 min at 50 A, rest, 20 min of charge at 10 A. */
  const trace = traceOf(
    rows(
      rest(3.3),
      part(180, -20, 3.25, 3.1),
      part(60, -50, 3.0, 2.7),
      rest(2.9),
      part(120, 10, 3.2, 3.4),
    ),
  );
  const kept = sustainedCurrents(trace, cutSections(trace));

  it('are told strongest first, each with its time, its charge and its lowest voltage', () => {
    expect(kept.map(({ kind }) => kind)).toEqual(['discharge', 'discharge', 'charge']);
    expect(kept[0]).toMatchObject({ durationS: 590, lowestV: 2.7, maxTemperatureC: null });
    expect(kept[0]!.currentA).toBeCloseTo(50, 6);
    expect(kept[0]!.ah).toBeCloseTo((50 * 590) / 3600, 6);
    expect(kept[1]!.currentA).toBeCloseTo(20, 6);
    expect(kept[1]!.lowestV).toBeCloseTo(3.1, 9);
    expect(kept[2]!.ah).toBeCloseTo((10 * 1190) / 3600, 6);
  });
  it('with the charge of the whole discharge they are part of', () => {
    const whole = kept[0]!.sectionAh;
    expect(kept[1]!.sectionAh).toBe(whole);
    expect(whole).toBeGreaterThan(kept[0]!.ah + kept[1]!.ah - 1e-9);
    expect(kept[2]!.sectionAh).toBeCloseTo(kept[2]!.ah, 6);
  });
  it('and with the highest temperature, where one was logged', () => {
    const warm = { ...trace, temperatureC: trace.timeS.map((_, i) => 25 + (i % 240) / 10) };
    const hottest = sustainedCurrents(warm, cutSections(warm)).map((one) => one.maxTemperatureC);
    expect(hottest[0]).toBeGreaterThan(hottest[1]!);
    expect(hottest.every((celsius) => celsius !== null)).toBe(true);
  });
  it('a tenth away is another current, less is the same', () => {
    const at = (second: number) => {
      const two = traceOf(rows(rest(3.3), part(60, -20, 3.2, 3.1), part(60, -second, 3.1, 3)));
      return sustainedCurrents(two, cutSections(two)).length;
    };
    expect([21.9, 18.1].map(at)).toEqual([1, 1]);
    expect([22.1, 17.9].map(at)).toEqual([2, 2]);
  });
  it('what lasted less than a second is none, and a log without a current has none', () => {
    const spike = traceOf([
      ...rest(3.3).map((row, i) => ({ ...row, t: i })),
      { t: 12, v: 2.9, i: -90 },
      { t: 12.5, v: 2.9, i: -90 },
      { t: 13, v: 3.3, i: 0 },
    ]);
    expect(sustainedCurrents(spike, cutSections(spike))).toEqual([]);
    expect(sustainedCurrents({ ...trace, currentA: null }, [])).toEqual([]);
  });
  it('no more than the two dozen strongest are kept', () => {
    const many = traceOf(
      rows(
        ...Array.from({ length: 40 }, (_, i) =>
          part(6, -(2 + i) * 1.0, 3.2, 3.1).map((row) => ({ ...row, i: -2 * 1.15 ** i })),
        ),
      ),
    );
    const told = sustainedCurrents(many, cutSections(many));
    expect(told).toHaveLength(24);
    for (let i = 1; i < told.length; i++)
      expect(told[i]!.currentA).toBeLessThanOrEqual(told[i - 1]!.currentA);
  });
});
