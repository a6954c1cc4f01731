import { describe, expect, it } from 'vitest';
import { figuresOfLog, readLog, type TimeUnit } from '../src/evidence';

/** A discharge of 96.8 Ah at 20 A with a row every ten seconds, its time as told. */
function log(
  header: string,
  timeOf: (second: number, row: number) => string,
  { comma = false, stepS = 10, amps = 20, forS = 17_424, restS = 300 } = {},
): Uint8Array {
  const number = (value: number, digits: number) =>
    comma ? value.toFixed(digits).replace('.', ',') : value.toFixed(digits);
  const delimiter = comma ? ';' : ',';
  const lines = [header];
  for (let t = 0, row = 0; t <= restS + forS + 60; t += stepS, row++) {
    const isOn = t >= restS && t <= restS + forS;
    const share = (t - restS) / forS;
    const v = isOn ? 3.3 - 0.2 * share - 0.65 * Math.max(0, share - 0.9) * 10 * 0.95 : 3.4;
    lines.push([timeOf(t, row), number(v, 3), number(isOn ? -amps : 0, 2)].join(delimiter));
  }
  return new TextEncoder().encode(`${lines.join('\n')}\n`);
}

const read = (bytes: Uint8Array, ratedAh?: number, timeUnit?: TimeUnit) => {
  const found = readLog(bytes, { ratedAh, timeUnit });
  const figures = figuresOfLog(found, { cutoffsV: [2.5], accuracy: null, ratedAh });
  return {
    ...found,
    ah: figures.capacities?.[0]?.capacity.value ?? 0,
    codes: figures.findings.map(({ code }) => code),
  };
};
const TRUE_AH = 96.8;
const thousands = (t: number) =>
  t < 1000 ? String(t) : `${Math.floor(t / 1000)}.${String(t % 1000).padStart(3, '0')}`;
const two = (value: number) => String(Math.floor(value)).padStart(2, '0');
const clock = (t: number) => `${two(t / 3600)}:${two((t / 60) % 60)}:${two(t % 60)}`;

describe('a time column is not believed blindly', () => {
  it.each([
    [
      'thousands grouped by points beside a decimal comma',
      'Zeit;Spannung (V);Strom (A)',
      thousands,
      true,
    ],
    [
      'day numbers of a spreadsheet',
      'time,voltage_V,current_A',
      (t: number) => (46_200.25 + t / 86_400).toFixed(8),
      false,
    ],
    [
      'day numbers with a decimal comma',
      'Datum;U (V);I (A)',
      (t: number) => (46_200.25 + t / 86_400).toFixed(8).replace('.', ','),
      true,
    ],
    [
      'epoch milliseconds',
      'epoch_ms,voltage_V,current_A',
      (t: number) => String(1_775_200_000_000 + 1000 * t),
      false,
    ],
    [
      'epoch milliseconds under a name nobody knows',
      'utc,voltage_V,current_A',
      (t: number) => String(1_775_200_000_000 + 1000 * t),
      false,
    ],
    [
      'epoch seconds',
      'unix time,voltage_V,current_A',
      (t: number) => String(1_775_200_000 + t),
      false,
    ],
    [
      'dotted dates, day first',
      'Zeitstempel;Spannung (V);Strom (A)',
      (t: number) => `27.11.2026 ${clock(t + 8 * 3600)}`,
      true,
    ],
    [
      'dotted dates with a fraction behind a comma',
      'Datum/Uhrzeit;Spannung (V);Strom (A)',
      (t: number) => `27.11.2026 ${clock(t + 8 * 3600)},500`,
      true,
    ],
    [
      'dotted dates of two digits',
      'Moment;Spannung (V);Strom (A)',
      (t: number) => `27.11.26 ${clock(t + 8 * 3600)}`,
      true,
    ],
    ['French', 'Temps;Tension;Courant', (t: number) => String(t), true],
    ['Spanish', 'Tiempo;Tensión;Corriente', (t: number) => String(t), true],
    ['Italian', 'Tempo;Tensione;Corrente', (t: number) => String(t), true],
    ['Dutch', 'Tijd;Spanning;Stroom', (t: number) => String(t), true],
    ['German', 'Messzeit;Zellspannung;Entladestrom', (t: number) => String(t), true],
  ])('%s', (_, header, timeOf, comma) => {
    const { ah, codes, trace, otherTimes } = read(log(header, timeOf, { comma }), 100);
    expect(Math.abs(ah / TRUE_AH - 1)).toBeLessThan(0.004);
    expect(trace.timeS[trace.timeS.length - 1]!).toBeCloseTo(17_780, -1);
    expect(codes).not.toContain('time-guessed');
    expect(otherTimes).toEqual([]);
  });

  it('a spreadsheet’s day numbers tell the wall clock', () => {
    const { trace } = read(
      log('time,voltage_V,current_A', (t) => (46_200.25 + t / 86_400).toFixed(8)),
    );
    expect(new Date(trace.startedAtMs!).toISOString()).toBe('2026-06-27T06:00:00.000Z');
  });

  it('shares of an hour and of a day cannot be told apart without a claim: both are shown', () => {
    const bytes = log('t,voltage_V,current_A', (t) => (t / 3600).toFixed(6));
    const open = read(bytes);
    expect(open.otherTimes!.length).toBeGreaterThan(0);
    expect(open.codes).toContain('time-guessed');
    const claimed = read(bytes, 100);
    expect(Math.abs(claimed.ah / TRUE_AH - 1)).toBeLessThan(0.004);
    expect(claimed.codes).not.toContain('time-guessed');
  });

  it('bare minutes are proposed where seconds would be no capacity, and asked about', () => {
    const bytes = log('t,voltage_V,current_A', (t) => String(t / 60), { stepS: 60 });
    const { ah, codes, otherTimes } = read(bytes, 100);
    expect(Math.abs(ah / TRUE_AH - 1)).toBeLessThan(0.01);
    expect(codes.some((code) => code === 'time-guessed' || code === 'time-unit-found')).toBe(true);
    expect(otherTimes!.every(({ unit }) => unit !== 'min')).toBe(true);
  });

  it('what a person said is read so, and said', () => {
    const bytes = log('t,voltage_V,current_A', (t) => (t / 3600).toFixed(6));
    const { ah, codes } = read(bytes, undefined, 'h');
    expect(Math.abs(ah / TRUE_AH - 1)).toBeLessThan(0.004);
    expect(codes).toContain('time-told');
    expect(codes).not.toContain('time-guessed');
  });

  it('a clock that begins again before a tenth of the claim flowed is a question', () => {
    const bytes = log('t,voltage_V,current_A', (t) => String(t < 900 ? t : t - 900));
    expect(read(bytes, 100).codes).toContain('time-guessed');
    expect(read(bytes, 12).codes).not.toContain('time-guessed');
  });

  it('bare seconds stay seconds without a question', () => {
    for (const stepS of [1, 5, 10, 30, 60]) {
      const { codes, ah } = read(log('time,voltage_V,current_A', String, { stepS }), 100);
      expect(codes).not.toContain('time-guessed');
      expect(Math.abs(ah / TRUE_AH - 1)).toBeLessThan(0.01);
    }
  });

  it('a time that is plausible in no unit is refused and asked about, never stored', () => {
    const bytes = log('t,voltage_V,current_A', (t) => String(t * 7_001_000));
    expect(() => read(bytes)).toThrow(/has no unit, and in none .* under Columns/);
    expect(read(bytes, undefined, 'ms').codes).toContain('time-told');
  });

  it('a hundred readings a second stay seconds', () => {
    const { otherTimes, trace } = read(
      log('t,voltage_V,current_A', (t) => (t / 1000).toFixed(2), { forS: 90_000 }),
    );
    expect(trace.timeS[1]).toBeCloseTo(0.01, 9);
    expect(otherTimes).toEqual([]);
  });

  it('decimals are no thousands', () => {
    const { trace } = read(log('t;U;I', (t) => (t / 10).toFixed(3), { comma: true }));
    expect(trace.timeS[1]).toBe(1);
  });
});
