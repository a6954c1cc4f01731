import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { encodeTrace, figuresOfLog, LogRefusal, readLog } from '../src/evidence';
import { seededRandom } from '../src/statistics';

const SAMPLES = join(import.meta.dirname, '..', 'fixtures', 'samples');
const files = readdirSync(SAMPLES).filter((name) => /\.(csv|tsv)$/.test(name));
/** Longest a file may take, ms. */
const MOST_MS = 5000;

/** The head of a file, long enough to be recognised and quick to go through many times. */
const head = (name: string) =>
  new Uint8Array(readFileSync(join(SAMPLES, name))).subarray(0, 24_000);

/** One hurt file after another, from a seed. */
function* hurt(bytes: Uint8Array, seed: number, count: number): Generator<Uint8Array> {
  const { uniform } = seededRandom(seed);
  const any = (below: number) => Math.floor(uniform() * Math.max(1, below));
  const text = [...',;\t.:-+"\'#\n\r eE9NaN\0é'];
  for (let i = 0; i < count; i++) {
    let list = Array.from(bytes);
    for (let times = 1 + any(4); times > 0 && list.length > 0; times--) {
      const at = any(list.length);
      const length = 1 + any(200);
      switch (any(6)) {
        case 0:
          list.splice(at, length);
          break;
        case 1:
          list.splice(at, 0, ...Array.from({ length }, () => any(256)));
          break;
        case 2:
          list.splice(at, 0, ...list.slice(at, at + length));
          break;
        case 3: {
          const letter = text[any(text.length)]!.charCodeAt(0);
          for (let k = 0; k < length; k++)
            list[Math.min(list.length - 1, at + k * any(40))] = letter;
          break;
        }
        case 4:
          list = list.slice(0, at);
          break;
        default: {
          // One letter everywhere for another: a delimiter, a decimal mark, a sign.
          const [from, to] = [list[at]!, text[any(text.length)]!.charCodeAt(0)];
          list = list.map((byte) => (byte === from ? to : byte));
        }
      }
    }
    yield Uint8Array.from(list);
  }
}

/** Whether a log is read at all. */
function isRead(bytes: Uint8Array<ArrayBuffer>): boolean {
  try {
    return readLog(bytes).trace.timeS.length > 0;
  } catch {
    return false;
  }
}

describe('hurt logs', () => {
  it.each(files)('%s: read or refused in words, never a crash or a hang', (name) => {
    let [read, refused] = [0, 0];
    for (const bytes of hurt(head(name), 77 + files.indexOf(name), 60)) {
      const started = performance.now();
      try {
        const log = readLog(bytes);
        const { trace } = log;
        for (let i = 1; i < trace.timeS.length; i++)
          expect(trace.timeS[i]!).toBeGreaterThan(trace.timeS[i - 1]!);
        expect(trace.voltageV.length).toBe(trace.timeS.length);
        const figures = figuresOfLog(log, { cutoffsV: [2.5, 3], accuracy: null, ratedAh: 100 });
        for (const { capacity } of figures.capacities ?? [])
          expect(Number.isFinite(capacity.value)).toBe(true);
        encodeTrace(trace);
        read++;
      } catch (error) {
        if (!(error instanceof LogRefusal)) {
          // What cannot be stored exactly is a refusal of the store, said in words too.
          expect((error as Error).message).toMatch(/cannot be stored exactly/);
        } else {
          expect(error.message).toMatch(/[Rr]ow \d+|file/);
          expect(error.message.length).toBeGreaterThan(20);
          expect(() => readLog(bytes)).toThrow(error.message);
        }
        refused++;
      }
      expect(performance.now() - started).toBeLessThan(MOST_MS);
    }
    // Of a sound log some stay readable and some do not; what is no log never becomes one.
    expect(read > 0).toBe(isRead(head(name)));
    expect(refused).toBeGreaterThan(0);
  });
});
