import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type FreshLab, freshLab } from '../../lab/testing/fresh-lab';
import type { SupplierRow, Where } from '../src';

describe('conditions', () => {
  let fresh: FreshLab;
  beforeAll(async () => {
    fresh = await freshLab();
    const { suppliers } = fresh.lab.store;
    for (const [name, place, day] of [
      ['Alder Cells', 'North Quay', 1],
      ['Birch 100% Cells', null, 2],
      ['Cedar Packs', 'South Quay', 3],
    ] as const)
      await suppliers.insert({
        name,
        place,
        notes: null,
        mergedInto: null,
        createdAt: new Date(Date.UTC(2026, 0, day)),
      });
  });
  afterAll(() => fresh.close());

  const names = async (where: Where<SupplierRow>) =>
    (await fresh.lab.store.suppliers.find(where, { order: [['name', 'ASC']] })).map(
      ({ name }) => name.split(' ')[0],
    );
  const day = (n: number) => new Date(Date.UTC(2026, 0, n));

  it.each<[string, Where<SupplierRow>, string[]]>([
    ['none', {}, ['Alder', 'Birch', 'Cedar']],
    ['a value', { place: 'North Quay' }, ['Alder']],
    ['nothing there', { place: null }, ['Birch']],
    ['one of several', { name: ['Alder Cells', 'Cedar Packs', 'Nobody'] }, ['Alder', 'Cedar']],
    ['another', { name: { not: 'Alder Cells' } }, ['Birch', 'Cedar']],
    ['anything at all', { place: { not: null } }, ['Alder', 'Cedar']],
    ['none of several', { name: { noneOf: ['Alder Cells'] } }, ['Birch', 'Cedar']],
    ['above', { createdAt: { above: day(2) } }, ['Cedar']],
    ['at least', { createdAt: { atLeast: day(2) } }, ['Birch', 'Cedar']],
    ['like', { name: { like: '%Cells' } }, ['Alder', 'Birch']],
    ['like, with its own signs kept', { name: { like: '%100\\%%' } }, ['Birch']],
    ['all at once', { name: { like: '%Cells' }, place: null }, ['Birch']],
    ['any of', { anyOf: [{ place: null }, { name: 'Cedar Packs' }] }, ['Birch', 'Cedar']],
    ['any of, and all', { place: 'South Quay', anyOf: [{ name: { like: 'C%' } }] }, ['Cedar']],
    ['left open', { place: undefined }, ['Alder', 'Birch', 'Cedar']],
    ['one of none', { name: [] }, []],
    ['any of none', { anyOf: [{ name: [] }, { place: [] }] }, []],
  ])('%s', async (_words, where, found) => {
    expect(await names(where)).toEqual(found);
    expect(await fresh.lab.store.suppliers.count(where)).toBe(found.length);
  });

  it('that name nobody change and remove nobody', async () => {
    const { suppliers } = fresh.lab.store;
    expect(await suppliers.update({ notes: 'gone' }, { id: [] })).toBe(0);
    expect(await suppliers.remove({ id: [] })).toBe(0);
    expect(await names({})).toHaveLength(3);
    expect(await suppliers.count({ notes: 'gone' })).toBe(0);
  });
});
