import { createHash } from 'node:crypto';
import { join } from 'node:path';
import { type Dialect, LogRefusal, readLog, scanRows } from '@dusk-tally/core/evidence';
import { seededRandom } from '@dusk-tally/core/statistics';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { computeLog } from '../src/compute/compute-log';
import { type LogTask } from '../src/compute/log-task';
import { scanInTwo, SecondThread } from '../src/compute/second-thread';

describe('a log read by two threads', () => {
  let second: SecondThread;
  beforeAll(() => {
    second = new SecondThread(join(import.meta.dirname, '..', 'dist', 'worker.mjs'));
  });
  afterAll(() => second.close());

  const rows = 260_000;
  const lines = (change: (line: string, row: number) => string = (line) => line) => {
    const random = seededRandom(3);
    const text = ['time_s,voltage_V,current_A,temperature_C'];
    for (let i = 0; i < rows; i++)
      text.push(
        change(
          `${i},${(i < 60 ? 3.4 : 3.3 - (0.8 * i) / rows + 0.0004 * random.normal()).toFixed(4)},${i < 60 ? 0 : -20.8},${(23 + random.uniform()).toFixed(1)}`,
          i + 2,
        ),
      );
    return new TextEncoder().encode(`${text.join('\n')}\n`);
  };
  const task = (bytes: Uint8Array): LogTask => ({
    bytes,
    path: null,
    cutoffV: 2.6,
    ratedAh: 104,
    accuracy: null,
    leadMohm: null,
    leadUncertaintyMohm: null,
    voltageTable: [],
  });
  const bySize = (blocks: { column: string; index: number; payload: Uint8Array }[]) =>
    [...blocks]
      .sort((a, b) => a.column.localeCompare(b.column) || a.index - b.index)
      .map(({ column, index, payload }) => [
        column,
        index,
        Buffer.from(payload).toString('base64'),
      ]);

  it('gives the same bits as one', () => {
    const bytes = lines();
    expect(bytes.length).toBeGreaterThan(4 * 1024 * 1024);
    const [alone, together] = [computeLog(task(bytes)), computeLog(task(bytes), second)];
    if (!alone.ok || !together.ok) throw new Error('Expected both to be read.');
    expect(together.figures).toEqual(alone.figures);
    expect(together.summary).toEqual(alone.summary);
    expect(bySize(together.blocks)).toEqual(bySize(alone.blocks));
    expect(Buffer.from(together.curve).equals(Buffer.from(alone.curve))).toBe(true);
  });
  it('hashes the bytes meanwhile, shared or not, and gives the same bits', () => {
    const bytes = lines();
    const shared = new Uint8Array(new SharedArrayBuffer(bytes.length));
    shared.set(bytes);
    const expected = createHash('sha256').update(bytes).digest('hex');
    const plain = computeLog(task(bytes));
    for (const helper of [null, second])
      for (const given of [bytes, shared]) {
        const read = computeLog({ ...task(given), wantsHash: true }, helper);
        if (!read.ok || !plain.ok) throw new Error('Expected both to be read.');
        expect(read.sha256).toBe(expected);
        expect(read.figures).toEqual(plain.figures);
        expect(bySize(read.blocks)).toEqual(bySize(plain.blocks));
      }
    expect(plain.ok && plain.sha256).toBe(null);
  });
  it('gives each job its own answer, in whatever order they are asked for', () => {
    const texts = ['a', 'b', 'c'].map((text) => new TextEncoder().encode(text));
    const waiting = texts.map((bytes) => second.start({ kind: 'hash', bytes }));
    const expected = texts.map((bytes) => createHash('sha256').update(bytes).digest('hex'));
    for (const i of [2, 0, 1]) expect(waiting[i]!()).toBe(expected[i]);
  });
  it('counts the lines of the second half from the start of the file', () => {
    const bytes = lines((line, row) =>
      row === 200_001 ? line.replace(/,-20.8,/, ',OVLD,') : line,
    );
    const [alone, together] = [computeLog(task(bytes)), computeLog(task(bytes), second)];
    if (!alone.ok || !together.ok) throw new Error('Expected both to be read.');
    expect(together.summary.findings).toEqual(alone.summary.findings);
    expect(together.summary.findings.map(({ text }) => text).join()).toContain('row 200001');
  });
  it('refuses in the same words', () => {
    const bytes = lines((line, row) => (row > 230_000 ? line.replace(/,-20.8,/, ',OVLD,') : line));
    const [alone, together] = [computeLog(task(bytes)), computeLog(task(bytes), second)];
    expect(alone.ok).toBe(false);
    expect(together).toEqual(alone);
  });
  it('a log cut off in its last line, and one with NULs behind it', () => {
    const bytes = lines();
    const cut = bytes.slice(0, -9);
    const nuls = new Uint8Array(bytes.length + 40);
    nuls.set(bytes.subarray(0, -3));
    for (const damaged of [cut, nuls]) {
      const plain = readLog(damaged);
      const two = readLog(damaged, { scan: scanInTwo(second) });
      expect(two.rows).toBe(plain.rows);
      expect(two.findings).toEqual(plain.findings);
    }
  });
  it('reads by itself when the other thread is gone', async () => {
    const gone = new SecondThread(join(import.meta.dirname, '..', 'dist', 'worker.mjs'));
    const scan = scanInTwo(gone);
    const bad = { columns: [] } as unknown as Dialect;
    // A job it cannot do is answered with a failure; the reading goes on alone.
    expect(() => scan(lines(), bad)).toThrow();
    const { dialect } = readLog(lines().subarray(0, 4000));
    const bytes = lines();
    expect(scan(bytes, dialect).count).toBe(scanRows(bytes, dialect).count);
    await gone.close();
  });
  it('says what a refusal is', () => {
    const short = new TextEncoder().encode('time_s,voltage_V\n0,3\n');
    expect(() => readLog(short, { scan: scanInTwo(second) })).toThrow(LogRefusal);
  });
});
