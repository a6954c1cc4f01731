import { randomUUID } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { takeIn } from '../src/suppliers';
import { failure } from '../testing/failure';
import { type FreshLab, freshLab } from '../testing/fresh-lab';

describe('taking in a lot, with its supplier and model', () => {
  let fresh: FreshLab;
  beforeAll(async () => {
    fresh = await freshLab();
  });
  afterAll(() => fresh.close());

  const model = {
    name: 'Sedge P104',
    chemistry: 'LFP' as const,
    format: 'prism' as const,
    widthMm: 130,
    thicknessMm: 36,
    heightMm: 195,
  };
  const lot = (more: object = {}) => ({
    clientKey: randomUUID(),
    title: 'Workboats',
    supplierName: 'Marl Cells',
    model,
    quantity: 4,
    arrivedOn: '2026-03-02',
    claim: [{ kind: 'capacity' as const, value: 104 }],
    ...more,
  });
  const take = (more: object = {}) => takeIn(fresh.lab, fresh.admin, lot(more) as never);
  const counts = async () => {
    const { lots, suppliers, cellModels, cells } = fresh.lab.store;
    return Promise.all([lots, suppliers, cellModels, cells].map((table) => table.count({})));
  };

  it.each([
    ['a negative capacity', { claim: [{ kind: 'capacity', value: -5 }] }, /Capacity/],
    ['10⁹ Ah', { claim: [{ kind: 'capacity', value: 1e9 }] }, /at most 100000 Ah/],
    ['a day in 9999', { arrivedOn: '9999-01-01' }, /1990 to 2099/],
    ['a day in year 1', { orderedOn: '0001-01-01' }, /1990 to 2099/],
    ['a day that is none', { arrivedOn: '2026-02-30' }, /Expected a day/],
    ['an arrival before the order', { orderedOn: '2026-03-03' }, /on or after the order/],
    ['a discount over the price', { price: 100, discount: 101 }, /at most the price/],
    ['no supplier', { supplierName: '  ' }, /Supplier: Expected a name/],
    ['no short name', { title: ' ' }, /short name/],
    ['cells by the half', { quantity: 1.5 }, /whole number of cells/],
  ])('refuses %s, and leaves neither supplier nor model behind', async (_what, more, message) => {
    const before = await counts();
    expect((await failure(take(more))).message).toMatch(message);
    expect(await counts()).toEqual(before);
  });

  it('what fails late leaves nothing behind either', async () => {
    const before = await counts();
    // The model is new and good, the lot is not: more cells than a lot can hold.
    expect((await failure(take({ quantity: 20_001 }))).code).toBe('invalid');
    const offer = { offer: 'x'.repeat(60_001) };
    expect((await failure(take(offer))).code).toBe('invalid');
    expect(await counts()).toEqual(before);
  });

  it('makes supplier, model, lot, cells and offer at once', async () => {
    const { code } = await take({ offer: 'Four cells of 104 Ah, as new.' });
    expect(code).toMatch(/^L-\d{3}$/);
    expect(await counts()).toEqual([1, 1, 1, 4]);
    expect(await fresh.lab.store.arrivals.offers.count({})).toBe(1);
  });

  it('the same try again gives the same lot, one after the other or at once', async () => {
    const { id } = (await fresh.lab.store.cellModels.find({}))[0]!;
    const again = { ...lot({ model: { id } }) };
    const first = await takeIn(fresh.lab, fresh.admin, again);
    expect(await takeIn(fresh.lab, fresh.admin, again)).toEqual(first);
    const both = { ...lot({ model: { id }, title: 'At once' }) };
    const results = await Promise.allSettled([
      takeIn(fresh.lab, fresh.admin, both),
      takeIn(fresh.lab, fresh.admin, both),
    ]);
    const codes = results.flatMap((result) =>
      result.status === 'fulfilled' ? [result.value.code] : [],
    );
    expect(new Set(codes).size).toBe(1);
    expect(await fresh.lab.store.lots.count({ title: 'At once' })).toBe(1);
    expect(await takeIn(fresh.lab, fresh.admin, both)).toEqual({ code: codes[0] });
  });

  it('a supplier is known whatever case and blanks, a model is refused by its name', async () => {
    const { id } = (await fresh.lab.store.cellModels.find({}))[0]!;
    await take({ model: { id }, supplierName: '  MARL   cells ' });
    expect(await fresh.lab.store.suppliers.count({})).toBe(1);
    const twice = await failure(take({ model: { ...model, name: ' sedge  p104' } }));
    expect(twice).toMatchObject({ code: 'duplicate', details: { field: 'model.name' } });
    await take({ model: { ...model, name: 'Sedge P105' }, supplierName: ' Reed   and Co ' });
    const names = (await fresh.lab.store.suppliers.find({})).map(({ name }) => name).sort();
    expect(names).toEqual(['Marl Cells', 'Reed and Co']);
  });

  it('needs a lead', async () => {
    const technician = { ...fresh.admin, role: 'technician' as const };
    expect((await failure(takeIn(fresh.lab, technician, lot() as never))).code).toBe('notAllowed');
  });
});
