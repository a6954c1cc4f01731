import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { joinScans, LogRefusal, readLog, scanRows } from '../src/evidence';
import { seededRandom } from '../src/statistics';

const SAMPLES = join(import.meta.dirname, '..', 'fixtures', 'samples');
const NEWLINE = 10;

/** Reads all rows in two pieces, cut behind the line in which that share of the bytes ends. */
const inTwo =
  (share: number): typeof scanRows =>
  (bytes, dialect, options = {}) => {
    const rows = bytes.length - dialect.firstDataOffset;
    const middle = bytes.indexOf(NEWLINE, dialect.firstDataOffset + Math.floor(rows * share));
    if (middle < 0 || middle + 1 >= bytes.length) return scanRows(bytes, dialect, options);
    const first = scanRows(bytes.subarray(0, middle + 1), dialect, {
      ...options,
      capacity: share < 0.5 ? Math.ceil(bytes.length / 10) : undefined,
      partOfMore: true,
    });
    const second = scanRows(
      bytes.subarray(middle + 1),
      { ...dialect, firstDataOffset: 0, firstDataRow: 1 },
      { endsInNuls: options.endsInNuls, partOfMore: true },
    );
    return joinScans(first, second);
  };

/** What a log holds, or why it is refused, read in a way. */
function reading(bytes: Uint8Array, scan: typeof scanRows): unknown {
  try {
    return readLog(bytes, { scan });
  } catch (error) {
    if (error instanceof LogRefusal) return [error.code, error.message];
    throw error;
  }
}

const logs = readdirSync(SAMPLES).filter((name) => /\.(csv|tsv|txt|dat|log)$/i.test(name));

describe('a log scanned in two pieces is the log scanned at once', () => {
  it('there are samples to try it on', () => expect(logs.length).toBeGreaterThan(8));
  it.each(logs)('%s, wherever it is cut', (name) => {
    const bytes = new Uint8Array(readFileSync(join(SAMPLES, name)));
    const whole = reading(bytes, scanRows);
    for (const share of [0, 0.01, 0.37, 0.5, 0.83, 0.999])
      expect(reading(bytes, inTwo(share)), `cut at ${share}`).toEqual(whole);
  });

  const text = (rows: readonly string[]) =>
    new TextEncoder().encode(['Time (s),Voltage (V),Current (A)', ...rows].join('\n') + '\n');
  const sound = (count: number) => {
    const random = seededRandom(9);
    return Array.from(
      { length: count },
      (_, i) => `${10 * i},${(3.3 - i / 10_000 + random.normal() / 5000).toFixed(4)},-20.00`,
    );
  };

  it('rows that hold text are counted over both, by their lines of the file', () => {
    const rows = sound(600);
    for (const row of [40, 310, 590]) rows[row] = `${10 * row},open,-20.00`;
    const bytes = text(rows);
    const whole = reading(bytes, scanRows) as ReturnType<typeof readLog>;
    for (const share of [0.2, 0.5, 0.9]) expect(reading(bytes, inTwo(share))).toEqual(whole);
    expect(JSON.stringify(whole)).toContain('312');
  });

  it('too much text is refused in the same words, though either piece alone would have passed', () => {
    const rows = sound(600);
    for (let row = 3; row < 600; row += 80) rows[row] = `${10 * row},open,-20.00`;
    const bytes = text(rows);
    const whole = reading(bytes, scanRows);
    expect(whole).toEqual(['text-in-numbers', expect.stringContaining('Row 5')]);
    for (const share of [0.1, 0.5, 0.9]) expect(reading(bytes, inTwo(share))).toEqual(whole);
  });

  it('a last line that was cut off is told by its line of the whole file', () => {
    const bytes = text(sound(500));
    const cut = bytes.subarray(0, bytes.length - 12);
    const whole = reading(cut, scanRows);
    expect(JSON.stringify(whole)).toContain('ends abruptly');
    for (const share of [0.1, 0.5, 0.95]) expect(reading(cut, inTwo(share))).toEqual(whole);
  });

  it('the most digits of either are the digits of both', () => {
    const rows = sound(300);
    for (let i = 0; i < 150; i++) rows[i] = `${10 * i},3.3,-20`;
    for (const order of [
      rows,
      rows.toReversed().map((row, i) => row.replace(/^\d+/, String(10 * i))),
    ])
      expect(reading(text(order), inTwo(0.5))).toEqual(reading(text(order), scanRows));
  });
});
