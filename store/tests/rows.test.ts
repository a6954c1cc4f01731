import fc from 'fast-check';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type FreshLab, freshLab } from '../../lab/testing/fresh-lab';
import type { Comparison, Condition, Store, SupplierRow, Where } from '../src';

const DAY_MS = 86_400_000;
const START = Date.UTC(2026, 0, 1);

/** The columns that the conditions below speak of. */
type Told = Pick<SupplierRow, 'name' | 'place' | 'createdAt'>;

const words = fc.stringMatching(/^[a-d]{1,3}$/);
const moments = fc.integer({ min: 0, max: 5 }).map((day) => new Date(START + day * DAY_MS));

const plain = (value: unknown) => (value instanceof Date ? value.getTime() : value);

/** What a comparison says of a value, as a database has it: of nothing, nothing is known. */
function compares(value: unknown, comparison: Comparison<unknown>): boolean {
  return Object.entries(comparison).every(([how, other]: [string, unknown]) => {
    if (how === 'not' && other === null) return value !== null;
    if (how === 'noneOf' && (other as unknown[]).length === 0) return true;
    if (value === null) return false;
    const [a, b] = [plain(value), plain(other)] as [number, number];
    switch (how) {
      case 'not':
        return a !== b;
      case 'noneOf':
        return !(other as unknown[]).map(plain).includes(a);
      case 'above':
        return a > b;
      case 'below':
        return a < b;
      case 'atLeast':
        return a >= b;
      default:
        return new RegExp(`^${(other as string).replaceAll('%', '.*')}$`).test(value as string);
    }
  });
}

function holds(value: unknown, condition: Condition<unknown>): boolean {
  if (condition === undefined) return true;
  if (Array.isArray(condition)) return condition.map(plain).includes(plain(value));
  if (condition === null || typeof condition !== 'object' || condition instanceof Date)
    return plain(value) === plain(condition);
  return compares(value, condition as Comparison<unknown>);
}

const holdsOf = (row: Told, { anyOf, ...columns }: Where<Told>): boolean =>
  Object.entries(columns).every(([name, condition]) => holds(row[name as keyof Told], condition)) &&
  (anyOf === undefined || anyOf.some((some) => holdsOf(row, some)));

const plainRecord = <T>(fields: { [K in keyof T]: fc.Arbitrary<T[K]> }) =>
  fc.record(fields, { noNullPrototype: true });
const ofWords = fc.oneof(
  words,
  fc.array(words, { maxLength: 3 }),
  plainRecord({ not: words }),
  plainRecord({ noneOf: fc.array(words, { maxLength: 3 }) }),
  plainRecord({ above: words, below: words }),
  plainRecord({ like: words.map((text) => `${text[0]}%`) }),
);
const ofMoments = fc.oneof(
  moments,
  plainRecord({ above: moments }),
  plainRecord({ atLeast: moments, below: moments }),
  plainRecord({ not: moments }),
);
const columns = fc.record(
  {
    name: ofWords,
    place: fc.oneof(ofWords, fc.constant(null), fc.constant({ not: null })),
    createdAt: ofMoments,
  },
  { requiredKeys: [], noNullPrototype: true },
);
const conditions: fc.Arbitrary<Where<Told>> = fc.oneof(
  columns,
  fc
    .tuple(columns, fc.array(columns, { minLength: 1, maxLength: 3 }))
    .map(([all, anyOf]) => ({ ...all, anyOf })),
);

describe('rows', () => {
  let fresh: FreshLab;
  let store: Store;
  let made = 0;
  beforeAll(async () => {
    fresh = await freshLab();
    ({ store } = fresh.lab);
  });
  afterAll(() => fresh.close());
  const supplier = (name: string, told: Partial<SupplierRow> = {}) => ({
    name,
    place: null,
    notes: null,
    mergedInto: null,
    createdAt: new Date(START),
    ...told,
  });

  it('are found by any condition as a plain reading of it finds them', async () => {
    const random = fc.sample(
      fc.record({
        name: words,
        place: fc.option(words),
        createdAt: moments,
      }),
      { numRuns: 60, seed: 7 },
    );
    const told = [...new Map(random.map((row) => [row.name, row])).values()];
    await store.suppliers.insertMany(told.map((row) => supplier(row.name, row)));
    let some = 0;
    await fc.assert(
      fc.asyncProperty(conditions, async (where) => {
        const expected = told.filter((row) => holdsOf(row, where)).map(({ name }) => name);
        const found = await store.suppliers.find(where, { order: [['name', 'ASC']] });
        expect(found.map(({ name }) => name)).toEqual(expected.sort());
        expect(await store.suppliers.count(where)).toBe(expected.length);
        if (expected.length > 0 && expected.length < told.length) some++;
      }),
      { numRuns: 300, seed: 11 },
    );
    // The law was tried on conditions that part the rows, not only on all and none.
    expect(some).toBeGreaterThan(80);
    await store.suppliers.remove({});
  });

  it('are changed and removed where the condition holds, and nowhere else', async () => {
    const names = ['east', 'north', 'south', 'west'];
    await store.suppliers.insertMany(names.map((name) => supplier(name)));
    expect(await store.suppliers.update({ notes: 'moved' }, { name: { like: '%th' } })).toBe(2);
    const notes = async () =>
      (await store.suppliers.find({}, { order: [['name', 'ASC']] })).map((row) => row.notes);
    expect(await notes()).toEqual([null, 'moved', 'moved', null]);
    // Two people at once: the second one's version is not there any more.
    const [row] = await store.suppliers.find({ name: 'east' });
    const next = { version: row!.version + 1 };
    expect(
      await store.suppliers.update({ ...next, notes: 'first' }, { id: row!.id, version: 1 }),
    ).toBe(1);
    expect(
      await store.suppliers.update({ ...next, notes: 'second' }, { id: row!.id, version: 1 }),
    ).toBe(0);
    expect((await store.suppliers.one({ id: row!.id }))!.notes).toBe('first');
    expect(await store.suppliers.remove({ notes: null })).toBe(1);
    expect(await store.suppliers.count({})).toBe(3);
    await store.suppliers.remove({});
  });

  it('come in the order asked for, as many as asked for, with the columns asked for', async () => {
    await store.suppliers.insertMany(
      [
        ['b', 2],
        ['a', 2],
        ['c', 1],
      ].map(([name, day]) =>
        supplier(String(name), { createdAt: new Date(START + Number(day) * DAY_MS) }),
      ),
    );
    const order: [keyof SupplierRow, 'ASC' | 'DESC'][] = [
      ['createdAt', 'DESC'],
      ['name', 'ASC'],
    ];
    const two = await store.suppliers.find({}, { order, limit: 2, columns: ['name'] });
    expect(two).toEqual([{ name: 'a' }, { name: 'b' }]);
    expect((await store.suppliers.one({}, { order: [['name', 'DESC']] }))!.name).toBe('c');
    expect(await store.suppliers.one({ name: 'nobody' })).toBeNull();
    await store.suppliers.remove({});
  });

  it('by the hundred are all there, or none of them', async () => {
    const many = Array.from({ length: 450 }, (_, i) => supplier(`Many ${i}`));
    await store.suppliers.insertMany(many);
    expect(await store.suppliers.count({ name: { like: 'Many %' } })).toBe(450);
    const others = Array.from({ length: 450 }, (_, i) =>
      supplier(i === 420 ? 'x'.repeat(200) : `Other ${i}`),
    );
    await expect(
      store.transaction((transaction) => store.suppliers.insertMany(others, transaction)),
    ).rejects.toThrow(/too long/i);
    expect(await store.suppliers.count({ name: { like: 'Other %' } })).toBe(0);
    await store.suppliers.remove({});
  });

  it('that exist are replaced whole, and those that do not are added', async () => {
    const { columnWidths } = store;
    const personId = fresh.admin.id;
    await columnWidths.replaceMany([
      { personId, tableName: 'cells', widths: { number: 90, mass: 120 } },
      { personId, tableName: 'lots', widths: {} },
    ]);
    await columnWidths.replaceMany([
      { personId, tableName: 'cells', widths: { number: 70 } },
      { personId, tableName: 'runs', widths: { at: 1 } },
    ]);
    expect(await columnWidths.find({ personId }, { order: [['tableName', 'ASC']] })).toEqual([
      { personId, tableName: 'cells', widths: { number: 70 } },
      { personId, tableName: 'lots', widths: {} },
      { personId, tableName: 'runs', widths: { at: 1 } },
    ]);
  });

  it('give back any text and any JSON to the sign', async () => {
    await fc.assert(
      fc.asyncProperty(fc.string({ unit: 'grapheme', maxLength: 60 }), async (text) => {
        const { id } = await store.suppliers.insert(supplier(`Text ${made++}`, { notes: text }));
        expect((await store.suppliers.one({ id }))!.notes).toBe(text);
      }),
      { numRuns: 60, seed: 3 },
    );
    await fc.assert(
      fc.asyncProperty(
        fc.dictionary(
          fc.string({ unit: 'grapheme', minLength: 1, maxLength: 20 }),
          fc.double({ noNaN: true, noDefaultInfinity: true }),
        ),
        async (widths) => {
          const row = { personId: fresh.admin.id, tableName: 'any', widths };
          await store.columnWidths.replaceMany([row]);
          const kept = await store.columnWidths.one({ tableName: 'any' });
          // JSON knows no negative zero.
          expect(kept!.widths).toEqual(JSON.parse(JSON.stringify(widths)));
        },
      ),
      { numRuns: 60, seed: 5 },
    );
  });

  it('give back numbers to the last bit, and bytes to the last byte', async () => {
    const settings = (await store.settings.one({}))!;
    for (const guardFactor of [0.1 + 0.2, Number.MIN_VALUE * 2 ** 60, 1 / 3, 1e300, 5e-5]) {
      await store.settings.update({ guardFactor }, { id: settings.id });
      expect((await store.settings.one({}))!.guardFactor).toBe(guardFactor);
    }
    await store.settings.update({ guardFactor: settings.guardFactor }, { id: settings.id });
    const png = Buffer.from(Array.from({ length: 70_000 }, (_, i) => (i * 131 + (i >> 8)) & 0xff));
    const { id } = await store.reportMarks.insert({
      png,
      width: 10,
      height: 10,
      sha256: 'a'.repeat(64),
      personId: fresh.admin.id,
      at: new Date(START),
    });
    const kept = (await store.reportMarks.one({ id }))!.png;
    expect(Buffer.compare(kept, png)).toBe(0);
  });

  it('get numbers of a series that nobody else gets, and none is left out', async () => {
    const counts = [1, 3, 2, 5, 1, 4, 1, 1, 7, 2, 3, 1];
    const taken = await Promise.all(
      counts.map(async (count) => {
        const first = await store.transaction((t) => store.takeNumbers('law', count, t));
        return Array.from({ length: count }, (_, i) => first + i);
      }),
    );
    const total = counts.reduce((sum, count) => sum + count, 0);
    expect(taken.flat().sort((a, b) => a - b)).toEqual(
      Array.from({ length: total }, (_, i) => i + 1),
    );
    // What was taken by somebody who gave up is given to the next.
    const stop = new Error('given up');
    await expect(
      store.transaction(async (t) => {
        expect(await store.takeNumbers('law', 10, t)).toBe(total + 1);
        throw stop;
      }),
    ).rejects.toBe(stop);
    expect(await store.transaction((t) => store.takeNumbers('law', 1, t))).toBe(total + 1);
  });
});
