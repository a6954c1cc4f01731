import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  buildPyramid,
  compressLog,
  decodeColumns,
  encodeTrace,
  figuresOfLog,
  LogRefusal,
  memorySource,
  pyramidOfBlocks,
  readLog,
  readLongLog,
  sectionsInWhole,
  type Trace,
  traceFromColumns,
} from '../src/evidence';
import { reduceTrace } from '../src/evidence/long-logs/reduce-trace';

const folder = join(import.meta.dirname, '../fixtures/samples');
const sound = readdirSync(folder).filter((name) => /^(0|1)\d-/.test(name));
const bytesOf = (name: string) => new Uint8Array(readFileSync(join(folder, name)));
const text = (lines: string[]) => new TextEncoder().encode(lines.join('\n') + '\n');

/** The stored columns of a trace, which is all that pieces can keep. */
const columnsOf = (trace: Trace) => decodeColumns(encodeTrace(trace));

describe('a log read in pieces', () => {
  it.each(sound)('%s: the same as read at once, wherever it is cut', (name) => {
    const bytes = bytesOf(name);
    const whole = readLog(bytes);
    for (const pieceBytes of [3001, 20_000]) {
      const read = readLongLog(memorySource(bytes), { pieceBytes, keptBack: 300 });
      expect(read.log.rows).toBe(whole.rows);
      expect(columnsOf(read.log.trace)).toEqual(columnsOf(whole.trace));
      expect(read.log.trace.startedAtMs).toBe(whole.trace.startedAtMs);
      expect(read.log.trace.holes).toEqual(whole.trace.holes);
      expect(read.log.findings.map(({ text: t }) => t).sort()).toEqual(
        whole.findings.map(({ text: t }) => t).sort(),
      );
      expect(decodeColumns(read.blocks)).toEqual(columnsOf(whole.trace));
    }
  });
  it.each(['91-empty.csv', '92-header-only.csv', '93-binary.csv', '94-no-voltage.csv'])(
    '%s is refused in the same words',
    (name) => {
      const bytes = bytesOf(name);
      const message = (work: () => unknown) => {
        try {
          work();
          return null;
        } catch (error) {
          expect(error).toBeInstanceOf(LogRefusal);
          return (error as Error).message;
        }
      };
      expect(message(() => compressLog(memorySource(bytes)))).toBe(message(() => readLog(bytes)));
    },
  );
  it('midnights add up over pieces', () => {
    const lines = ['clock;voltage (V);current (A)'];
    for (let i = 0; i < 60 * 50; i++) {
      const minute = (i + 600) % 1440;
      const two = (n: number) => String(n).padStart(2, '0');
      lines.push(`${two(Math.floor(minute / 60))}:${two(minute % 60)}:00;3.${300 - (i % 90)};-1.5`);
    }
    const bytes = text(lines);
    const read = readLongLog(memorySource(bytes), { pieceBytes: 5000, keptBack: 40 });
    expect(read.log.trace.timeS).toEqual(readLog(bytes).trace.timeS);
    expect(read.log.trace.timeS.at(-1)).toBe(60 * (60 * 50 - 1));
    expect(read.log.findings.map(({ code }) => code)).toContain('clock-past-midnight');
  });
  it('a row that comes far too late is left out and counted', () => {
    const rows = Array.from({ length: 2000 }, (_, i) => `${i},3.3,-1`);
    rows.splice(1500, 0, '2.5,3.3,-1');
    const bytes = text(['time_s,voltage_V,current_A', ...rows]);
    const read = readLongLog(memorySource(bytes), { pieceBytes: 4000, keptBack: 50 });
    expect(read.log.rows).toBe(2000);
    expect(read.log.findings.map(({ code }) => code)).toContain('rows-too-late');
  });
  it('text all over is refused before the end', () => {
    const rows = Array.from({ length: 40_000 }, (_, i) =>
      i > 200 ? `${i},OVLD,-1` : `${i},3.3,-1`,
    );
    let read = 0;
    const bytes = text(['time_s,voltage_V,current_A', ...rows]);
    const source = {
      size: bytes.length,
      read: (from: number, to: number) => {
        if (to - from === 30_000) read = Math.max(read, to);
        return bytes.subarray(from, to);
      },
    };
    expect(() => compressLog(source, { pieceBytes: 30_000, keptBack: 100 })).toThrow(/OVLD/);
    // The head is looked at first, and whole where it is short; the pieces end where it is refused.
    expect(read).toBeGreaterThan(0);
    expect(read).toBeLessThan(bytes.length / 4);
  });
  it('says how far it is, and stops where that throws', () => {
    const bytes = bytesOf('01-plain-seconds.csv');
    const shares: number[] = [];
    readLongLog(memorySource(bytes), {
      pieceBytes: 9000,
      onProgress: (share) => shares.push(share),
    });
    expect(shares.length).toBeGreaterThan(5);
    expect([...shares].sort((a, b) => a - b)).toEqual(shares);
    expect(shares.at(-1)).toBe(1);
    expect(() =>
      readLongLog(memorySource(bytes), {
        pieceBytes: 9000,
        onProgress: () => {
          throw new Error('cancelled');
        },
      }),
    ).toThrow('cancelled');
  });
});

describe('a long trace computed from a part of its rows', () => {
  /** Rest, a discharge with a pause, rest, a charge; a row every `stepS`. */
  const rowsOf = (stepS: number): string[] => {
    const lines = ['time_s,voltage_V,current_A,temperature_C'];
    let noise = 17;
    const jitter = () => {
      noise = (noise * 1103515245 + 12345) % 2147483648;
      return noise / 2147483648 - 0.5;
    };
    let t = 0;
    const stretch = (seconds: number, v: (share: number) => number, a: number) => {
      const n = Math.round(seconds / stepS);
      for (let i = 0; i < n; i++) {
        lines.push(
          `${(stepS * t++).toFixed(2)},${(v(i / n) + 0.001 * jitter()).toFixed(4)},${(a === 0 ? 0 : a + 0.004 * jitter()).toFixed(3)},${(23 + 0.2 * jitter()).toFixed(1)}`,
        );
      }
    };
    stretch(600, () => 3.4, 0);
    stretch(3000, (x) => 3.25 - 0.1 * x, -20);
    stretch(300, (x) => 3.25 + 0.02 * x, 0);
    stretch(4000, (x) => 3.15 - 0.8 * x * x, -20);
    stretch(600, (x) => 2.6 + 0.2 * x, 0);
    stretch(2000, (x) => 3.3 + 0.1 * x, 15);
    return lines;
  };
  const bytes = text(rowsOf(0.05));
  const { trace } = readLog(bytes);
  const blocks = encodeTrace(trace);
  const options = { cutoffsV: [2.5, 2.8], accuracy: null, ratedAh: 40 };
  const purpose = { cutoffsV: options.cutoffsV, keep: 2 ** 13 };
  const whole = { trace, dialect: readLog(bytes).dialect, rows: trace.timeS.length, findings: [] };
  const all = figuresOfLog(whole, options);
  const reduced = reduceTrace(blocks, trace.decimals, purpose);
  const part = figuresOfLog({ ...whole, trace: reduced.trace }, options);

  it('holds a fraction of the rows', () => {
    expect(trace.timeS.length).toBe(210_000);
    expect(reduced.trace.timeS.length).toBeLessThan(trace.timeS.length / 6);
    expect(reduced.rowOf.at(-1)).toBe(trace.timeS.length - 1);
  });
  it('gives the same capacities, energies and budget, to a few parts in a million', () => {
    part.capacities!.forEach((found, i) => {
      const known = all.capacities![i]!;
      expect(found.capacity.bound).toBe(known.capacity.bound);
      for (const name of ['capacity', 'energy', 'meanVoltage'] as const)
        expect(found[name].value / known[name].value).toBeCloseTo(1, 4);
      expect(found.capacity.standardUncertainty! / known.capacity.standardUncertainty!).toBeCloseTo(
        1,
        2,
      );
    });
  });
  it('finds every section at the very row', () => {
    expect(
      sectionsInWhole(part.sections, reduced.rowOf).map(({ kind, fromIndex, toIndex }) => [
        kind,
        fromIndex,
        toIndex,
      ]),
    ).toEqual(all.sections.map(({ kind, fromIndex, toIndex }) => [kind, fromIndex, toIndex]));
    part.sections.forEach(({ ah }, i) => expect(ah).toBeCloseTo(all.sections[i]!.ah, 6));
  });
  it('gives the same resistances: all rows round load-on are there', () => {
    for (const name of ['r1s', 'r10s', 'r30s'] as const)
      expect(part.resistance[name].figure!.value).toBeCloseTo(
        all.resistance[name].figure!.value,
        2,
      );
  });
  it('the interval of the log, not of the rows kept, goes to the budget', () => {
    expect(reduced.trace.intervalS).toBeCloseTo(0.05, 9);
  });
  it('the pyramid of its blocks is that of the whole trace', () => {
    const ours = pyramidOfBlocks(blocks, all.sections);
    const theirs = buildPyramid(trace, all.discharge);
    expect(ours.map(({ level, index }) => [level, index])).toEqual(
      theirs.map(({ level, index }) => [level, index]),
    );
    ours.forEach((chunk, i) => expect(chunk.payload).toEqual(theirs[i]!.payload));
  });
  it('law: charge between any two kept rows is that of all rows between them', () => {
    const { sums } = reduced.trace;
    fc.assert(
      fc.property(fc.nat(reduced.rowOf.length - 2), fc.nat(2000), (a, more) => {
        const b = Math.min(reduced.rowOf.length - 1, a + 1 + more);
        let ah = 0;
        for (let row = reduced.rowOf[a]! + 1; row <= reduced.rowOf[b]!; row++)
          ah +=
            ((Math.abs(trace.currentA![row]!) + Math.abs(trace.currentA![row - 1]!)) *
              (trace.timeS[row]! - trace.timeS[row - 1]!)) /
            7200;
        expect(sums!.ah[b]! - sums!.ah[a]!).toBeCloseTo(ah, 8);
      }),
      { numRuns: 60 },
    );
  });
  it('a hole is seen though rows beside it are left out', () => {
    const { timeS } = trace;
    const later = timeS.map((t, i) => (i < 40_000 ? t : t + 500));
    const found = reduceTrace(encodeTrace({ ...trace, timeS: later }), trace.decimals, purpose);
    expect(found.trace.holes).toHaveLength(1);
    expect(found.trace.holes[0]!.toS - found.trace.holes[0]!.fromS).toBeCloseTo(500.05, 6);
  });
  it('a log that steps all the time still stays small', () => {
    const currentA = trace.currentA!.map((_, i) => (i % 40 < 20 ? -20 : -5));
    const found = reduceTrace(encodeTrace({ ...trace, currentA }), trace.decimals, purpose);
    expect(found.trace.timeS.length).toBeLessThan(3 * 2 ** 13);
  });
  it('is what the blocks give again', () => {
    const stored = traceFromColumns(decodeColumns(blocks), trace.decimals);
    const again = reduceTrace(encodeTrace(stored), trace.decimals, purpose);
    const sameBits = (a: Float64Array, b: Float64Array) =>
      Buffer.from(a.buffer).equals(Buffer.from(b.buffer));
    expect(sameBits(again.trace.voltageV, reduced.trace.voltageV)).toBe(true);
    expect(sameBits(again.trace.sums!.wh, reduced.trace.sums!.wh)).toBe(true);
  });
});
