import { describe, expect, it } from 'vitest';
import {
  curveTable,
  isDerivative,
  KIND_WORDS,
  KINDS,
  pictureOf,
  pictureTable,
} from '../features/verdicts/curve-kinds';

const curves = [
  {
    number: 'B-1',
    curve: {
      timeS: Float64Array.from([100, 3700, 7300]),
      chargeAh: Float64Array.from([0, 10, 20]),
      voltageV: Float64Array.from([3.3, 3.2, 2.5]),
    },
  },
  {
    number: 'B-2',
    curve: {
      timeS: Float64Array.from([0, 3600]),
      chargeAh: Float64Array.from([0, 10]),
      voltageV: Float64Array.from([3.3, 2.5]),
    },
  },
] as never;
const derivatives = [
  {
    number: 'B-1',
    incremental: { voltageV: [2.6, 3], ahPerV: [-1, 40] },
    differential: { ah: [1, 2, 3], voltPerAh: [0.5, 0.01, 0.02] },
  },
  { number: 'B-9', incremental: { voltageV: [1], ahPerV: [1] }, differential: null },
] as never;
const limits = { claimAh: 20, cutoffV: 2.5 };
const picture = (kind: (typeof KINDS)[number]) => pictureOf(kind, curves, derivatives, limits);

describe('pictures of a lot’s discharges', () => {
  it('over charge show the claim and the cut-off', () => {
    const { drawn, markX, markY } = picture('charge');
    expect(drawn.map(({ number }) => number)).toEqual(['B-1', 'B-2']);
    expect(markX).toEqual({ value: 20, label: 'claim 20 Ah' });
    expect(markY!.value).toBe(2.5);
    expect(pictureOf('charge', curves, derivatives, { ...limits, claimAh: null }).markX).toBeNull();
  });
  it('over time begin at load on, in hours', () => {
    expect(Array.from(picture('time').drawn[0]!.xs)).toEqual([0, 1, 2]);
    expect(picture('time').markX).toBeNull();
  });
  it('of derivatives show only cells of the lot, and no charge per volt below 0', () => {
    expect(picture('dqdv').drawn).toHaveLength(1);
    expect(Array.from(picture('dqdv').drawn[0]!.ys)).toEqual([0, 40]);
    const { drawn, top } = picture('dvdq');
    expect(drawn).toHaveLength(1);
    expect(top).toBeCloseTo(0.03, 9);
  });
  it('have a word for every kind', () => {
    for (const kind of KINDS) {
      expect(KIND_WORDS[kind]).not.toBe('');
      expect(isDerivative(kind)).toBe(kind.startsWith('d'));
    }
  });
  it('as CSV hold one row a point, with a head that names quantity and unit', () => {
    const rows = pictureTable(picture('charge')).split('\n');
    expect(rows[0]).toBe('cell,charge_given_Ah,voltage_V');
    expect(rows[1]).toBe('B-1,0.0000,3.3000');
    expect(rows).toHaveLength(1 + 5 + 1);
    const plain = curveTable(curves).split('\n');
    expect(plain[0]).toBe('cell,time_s,charge_Ah,voltage_V');
    expect(plain[3]).toBe('B-1,7300.0,20.0000,2.5000');
    expect(plain.at(-1)).toBe('');
  });
});
