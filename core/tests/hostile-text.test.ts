import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { compileTemplate, readOffer } from '../src/arrivals';
import { isNumberText, LogRefusal, readLog } from '../src/evidence';
import { parseQuantity } from '../src/units';

const SIZE = 100_000;
/** For 100 kB; several times what the slowest takes on two busy cores. */
const MOST_MS = 100;

/** What the quickest of three goes takes of the processor, ms: other processes do not count. */
function quickest(work: () => void): number {
  return Math.min(
    ...[1, 2, 3].map(() => {
      const before = process.cpuUsage();
      work();
      const { user, system } = process.cpuUsage(before);
      return (user + system) / 1000;
    }),
  );
}

const hostile: [string, string][] = [
  ['digits', '1'.repeat(SIZE)],
  ['digits and points', '1.'.repeat(SIZE / 2)],
  ['digits and commas', '1,'.repeat(SIZE / 2)],
  ['blanks', ' '.repeat(SIZE)],
  ['blanks behind a bracket', `[${' '.repeat(SIZE)}x`],
  ['brackets and blanks', '[ '.repeat(SIZE / 2)],
  ['slashes and blanks', ' / '.repeat(SIZE / 3)],
  ['underscores', '_'.repeat(SIZE)],
  ['letters', 'A'.repeat(SIZE)],
  ['letters and digits', 'A1'.repeat(SIZE / 2)],
  ['colons', '1:'.repeat(SIZE / 2)],
  ['quotes', '"'.repeat(SIZE)],
  ['a number and blanks', `1${' '.repeat(SIZE)}mAh`],
  ['days and blanks', `1 ${' -'.repeat(SIZE / 2)} days`],
  ['words', 'grade '.repeat(SIZE / 6)],
];

describe('no text can stop the app', () => {
  it.each(hostile)('an offer of %s', (_, text) => {
    expect(quickest(() => readOffer(text))).toBeLessThan(MOST_MS);
  });

  it.each(hostile)('a typed figure of %s', (_, text) => {
    expect(quickest(() => parseQuantity(text, 'capacityAh'))).toBeLessThan(MOST_MS);
    expect(parseQuantity(text, 'capacityAh').ok).toBe(false);
  });

  it.each(hostile)('a code of %s under twenty open parts', (_, text) => {
    const patterns = ['{any}'.repeat(20), '{any}A'.repeat(20), '{any}{serial}{maker}1{any}'];
    for (const pattern of patterns) {
      const template = compileTemplate({ name: 'x', pattern });
      expect(quickest(() => template.read(text))).toBeLessThan(MOST_MS);
    }
  });

  const refusedOrRead = (bytes: Uint8Array) => {
    try {
      readLog(bytes);
    } catch (error) {
      if (!(error instanceof LogRefusal)) throw error;
    }
  };
  const row = (cell: string) => `0,3.3,${cell}\n1,3.3,-1\n2,3.3,-1\n`;

  it.each(hostile)('a log whose header is of %s', (_, text) => {
    const bytes = new TextEncoder().encode(`time_s,voltage_V,${text}\n${row('-1')}`);
    expect(quickest(() => refusedOrRead(bytes))).toBeLessThan(MOST_MS);
  });

  it.each(hostile)('a log with a cell of %s', (_, text) => {
    const bytes = new TextEncoder().encode(`time_s,voltage_V,current_A\n${row(text)}`);
    expect(quickest(() => refusedOrRead(bytes))).toBeLessThan(MOST_MS);
  });

  it.each(hostile)('a log of nothing but %s', (_, text) => {
    const bytes = new TextEncoder().encode(text);
    expect(quickest(() => refusedOrRead(bytes))).toBeLessThan(MOST_MS);
  });

  it('whatever is put together from such pieces', () => {
    const piece = fc.constantFrom(
      '1',
      '.',
      ',',
      ' ',
      '[',
      ']',
      '/',
      '_',
      'A',
      '"',
      ':',
      '-',
      'Ah',
      '\t',
      ';',
      '\n',
    );
    fc.assert(
      fc.property(fc.array(piece, { minLength: 1, maxLength: 6 }), (pieces) => {
        const text = pieces.join('').repeat(Math.ceil(SIZE / 10 / pieces.length));
        const header = new TextEncoder().encode(`time_s,voltage_V,x${text}\n${row('-1')}`);
        expect(quickest(() => readOffer(text))).toBeLessThan(MOST_MS);
        expect(quickest(() => parseQuantity(text, 'voltageV'))).toBeLessThan(MOST_MS);
        expect(quickest(() => isNumberText(text.slice(0, 64)))).toBeLessThan(MOST_MS);
        expect(quickest(() => refusedOrRead(header))).toBeLessThan(MOST_MS);
      }),
      { numRuns: 60, seed: 5 },
    );
  });

  it('adjacent open parts still read what they can', () => {
    const template = compileTemplate({
      name: 'x',
      pattern: '{plant:1}{year:2}{week:2}{any}{serial:3}',
    });
    expect(template.read('P2418ABC007')).toMatchObject({ ok: true, serial: '007' });
  });
});
