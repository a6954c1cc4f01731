import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cleanOrder, NO_COUNTS, orderFindings } from '../src/evidence/reading/clean';
import { LogRefusal } from '../src/evidence/reading/refusal';
import type { SampledLine } from '../src/evidence/reading/sampled-lines';
import { refuseWithoutData } from '../src/evidence/reading/without-data';

const cleaned = (times: readonly number[], style = 'number') =>
  cleanOrder(Float64Array.from(times), style);
const DAY = 86_400;

describe('rows in the order of time', () => {
  it('that stand in order stay as they are, counted from the first', () => {
    expect(cleaned([100, 110, 125])).toMatchObject({ order: null, restartsAt: [] });
    expect([...cleaned([100, 110, 125]).timeS]).toEqual([0, 10, 25]);
    expect(orderFindings(cleaned([100, 110]))).toEqual([]);
    expect([...cleaned([]).timeS]).toEqual([]);
  });

  it('are sorted, of one stamp the first stays, and both are counted', () => {
    const { order, timeS, counts } = cleaned([0, 30, 10, 20, 20, 40]);
    expect([...order!]).toEqual([0, 2, 3, 1, 5]);
    expect([...timeS]).toEqual([0, 10, 20, 30, 40]);
    expect(counts).toEqual({ ...NO_COUNTS, disordered: 3, repeated: 1 });
    const said = orderFindings({ counts });
    expect(said.map(({ code, severity }) => [code, severity])).toEqual([
      ['rows-out-of-order', 'warning'],
      ['repeated-rows', 'warning'],
    ]);
    expect(said[0]!.text).toMatch(/^3 row\(s\) were out of order/);
  });

  it('a clock past midnight goes on into the next day, as often as it does', () => {
    const clock = [DAY - 20, DAY - 10, 0, 10, DAY - 10, 5];
    const { order, timeS, counts } = cleaned(clock, 'clock');
    expect([...order!]).toEqual([0, 1, 2, 3, 4, 5]);
    expect([...timeS]).toEqual([0, 10, 20, 30, DAY + 10, DAY + 25]);
    expect(counts).toMatchObject({ midnights: 2, restarts: 0, disordered: 0 });
    // The same numbers of a stamp are no clock.
    expect(cleaned(clock, 'stamp').counts.midnights).toBe(0);
  });

  it('a logger that began again runs on, one interval apart, and says where', () => {
    const first = Array.from({ length: 30 }, (_, i) => 10 * i);
    const { timeS, counts, restartsAt } = cleaned([...first, 0, 10, 20]);
    expect([...timeS].slice(28)).toEqual([280, 290, 300, 310, 320]);
    expect(counts).toMatchObject({ restarts: 1, disordered: 0 });
    expect(restartsAt).toEqual([300]);
    // A few rows in the wrong place are no new beginning.
    expect(cleaned([0, 10, 20, 0, 10]).counts).toMatchObject({ restarts: 0, disordered: 2 });
  });

  it('every time is kept once, ascending, whatever order they came in', () => {
    fc.assert(
      fc.property(fc.array(fc.nat(500), { minLength: 1, maxLength: 60 }), (times) => {
        const { order, timeS, counts } = cleaned(times, 'stamp');
        for (let i = 1; i < timeS.length; i++) expect(timeS[i]!).toBeGreaterThan(timeS[i - 1]!);
        expect(timeS[0]).toBe(0);
        if (counts.restarts + counts.setBacks > 0) return;
        expect(timeS.length).toBe(new Set(times).size);
        expect(counts.repeated).toBe(times.length - new Set(times).size);
        const kept = [...(order ?? times.keys())].map((row) => times[row]!);
        expect(kept).toEqual([...new Set(times)].sort((a, b) => a - b));
      }),
    );
  });
});

describe('a file without rows', () => {
  const refused = (...texts: string[]) => {
    const lines = texts.map(
      (text, i): SampledLine => ({ text, row: i + 1, offset: 0 }) as SampledLine,
    );
    try {
      return refuseWithoutData(lines);
    } catch (error) {
      expect(error).toBeInstanceOf(LogRefusal);
      return error as LogRefusal;
    }
  };

  it('is told from one that is blank, and from one that is no table', () => {
    expect(refused('', '  ').message).toBe(
      'The file holds only blank lines. Expected a header row and rows of readings.',
    );
    expect(refused('notes', 'Time / s,Voltage / V,Current / A').message).toBe(
      'Row 2 is a header; no data rows follow it. Expected rows of readings from row 3 on.',
    );
    expect(refused('', 'Dear lab,', 'here is nothing').message).toBe(
      'Row 2: no table of numbers found. Expected a header row and rows of time, voltage and current.',
    );
  });
});
