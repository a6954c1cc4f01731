import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { keep, parsed, readKept } from '../lib/browser-store';
import { heldKey, heldOf, keepHeld, readHeld } from '../lib/held-entries';

/** A browser’s storage; with room for so many signs. */
function storage(items: Record<string, string> = {}, room = Infinity): Storage {
  const kept = new Map(Object.entries(items));
  return {
    get length() {
      return kept.size;
    },
    key: (i) => [...kept.keys()][i] ?? null,
    getItem: (key) => kept.get(key) ?? null,
    setItem: (key, text) => {
      if (text.length > room) throw new DOMException('full', 'QuotaExceededError');
      kept.set(key, text);
    },
    removeItem: (key) => void kept.delete(key),
    clear: () => kept.clear(),
  };
}

const PLACE = '/lots/L-004/readings';
const KEY = heldKey(1, 'readings:4');
const entry = (clientKey: string) => ({ clientKey, value: 1 });
const keysIn = (place: Storage, key = KEY) =>
  (readHeld(key, place)?.entries ?? []).map((held) => (held as { clientKey: string }).clientKey);

describe('entries that wait', () => {
  const held = (place: string, count: number) =>
    JSON.stringify({ place, entries: Array(count).fill({ value: 1 }) });

  it('belong to one person', () => {
    const items = storage({
      [heldKey(1, 'readings:4')]: held('/lots/L-004/readings', 2),
      [heldKey(12, 'readings:4')]: held('/lots/L-004/readings', 5),
      [heldKey(1, 'codes:9')]: held('/lots/L-009/arrival/codes', 1),
      'dusk-other:1:x': held('/elsewhere', 7),
    });
    expect(heldOf(1, items).map(({ place, entries }) => [place, entries.length])).toEqual([
      ['/lots/L-009/arrival/codes', 1],
      ['/lots/L-004/readings', 2],
    ]);
    expect(heldOf(2, items)).toEqual([]);
  });

  it.each(['', 'null', '7', '[]', '{"place":3,"entries":[]}', '{"place":"/","entries":{}}', '{'])(
    'what cannot be read (%s) is nothing',
    (text) => expect(readHeld('key', storage({ key: text }))).toBeNull(),
  );

  it('of two pages of one person stand side by side, whichever writes last', () => {
    const browser = storage();
    const one = new Set(['a1', 'a2']);
    const two = new Set(['b1']);
    keepHeld(KEY, { place: PLACE, entries: [entry('a1'), entry('a2')] }, one, browser);
    keepHeld(KEY, { place: PLACE, entries: [entry('b1')] }, two, browser);
    expect(keysIn(browser)).toEqual(['a1', 'a2', 'b1']);
    // The first page’s are stored: they leave, the other’s stay.
    keepHeld(KEY, { place: PLACE, entries: [] }, one, browser);
    expect(keysIn(browser)).toEqual(['b1']);
    keepHeld(KEY, { place: PLACE, entries: [] }, two, browser);
    expect(browser.getItem(KEY)).toBeNull();
    expect(heldOf(1, browser)).toEqual([]);
  });

  it('never lose what no page has sent, in whatever order pages write', () => {
    const steps = fc.array(
      fc.record({ page: fc.nat(2), what: fc.constantFrom('type', 'send', 'reload') }),
      { maxLength: 40 },
    );
    fc.assert(
      fc.property(steps, (walk) => {
        const browser = storage();
        const pages = Array.from({ length: 3 }, () => ({
          own: new Set<string>(),
          pending: [] as ReturnType<typeof entry>[],
        }));
        const waiting = new Set<string>();
        walk.forEach(({ page, what }, i) => {
          const at = pages[page]!;
          if (what === 'type') {
            at.pending.push(entry(`k${i}`));
            at.own.add(`k${i}`);
            waiting.add(`k${i}`);
          } else if (what === 'send') {
            for (const { clientKey } of at.pending) waiting.delete(clientKey);
            at.pending = [];
          } else {
            // A page that begins anew takes up all that waits, another’s too.
            at.pending = keysIn(browser).map(entry);
            at.own = new Set(at.pending.map(({ clientKey }) => clientKey));
          }
          keepHeld(KEY, { place: PLACE, entries: at.pending }, at.own, browser);
          const there = new Set(keysIn(browser));
          for (const key of waiting) expect(there.has(key), key).toBe(true);
        });
      }),
      { numRuns: 300, seed: 2 },
    );
  });

  it('that a full browser cannot keep are told so; those it kept before stay', () => {
    const browser = storage({}, 120);
    const own = new Set(['a', 'b', 'c', 'd', 'e']);
    expect(keepHeld(KEY, { place: PLACE, entries: [entry('a')] }, own, browser)).toBe(true);
    const five = [...own].map(entry);
    expect(keepHeld(KEY, { place: PLACE, entries: five }, own, browser)).toBe(false);
    expect(keysIn(browser)).toEqual(['a']);
    expect(keepHeld(KEY, { place: PLACE, entries: [] }, own, browser)).toBe(true);
    expect(keysIn(browser)).toEqual([]);
  });
});

describe('what a browser keeps', () => {
  it('comes back as it was, until nothing is to be kept', () => {
    const browser = storage();
    for (const value of [0, '', false, [], { text: 'a "quoted" µ' }, [1, null]]) {
      expect(keep('key', value, browser)).toBe(true);
      expect(readKept('key', browser)).toEqual(value);
    }
    keep('key', null, browser);
    expect(browser.length).toBe(0);
    expect(readKept('key', browser)).toBeNull();
  });
  it('is nothing where no browser is, and nothing is thrown', () => {
    expect(readKept('key')).toBeNull();
    expect(keep('key', { text: 'typed' })).toBe(false);
  });
  it.each([
    [null, null],
    ['', null],
    ['{"half":', null],
    ['"words"', 'words'],
    ['[1,2]', [1, 2]],
  ])('the text %s says %j', (text, value) => expect(parsed(text)).toEqual(value));
});
