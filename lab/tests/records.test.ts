import { randomUUID } from 'node:crypto';
import { beforeAll, describe, expect, it } from 'vitest';
import { importLog } from '../src/evidence';
import { keepBooks, lotBooks } from '../src/money';
import {
  addEarlierLot,
  addSupplierNote,
  checkOffer,
  offerHints,
  setTarget,
  supplierRecords,
  takeBackEarlierLot,
} from '../src/records';
import { addSupplier, mergeSuppliers } from '../src/suppliers';
import { lotCells } from '../src/verdicts';
import { fresh, useClaimsLab } from '../testing/claims-lab';
import { failure } from '../testing/failure';
import { paidLot } from '../testing/paid-lot';
import { claimedLot } from '../testing/fresh-lab';
import { logOf } from '../testing/rest-lots';

useClaimsLab();

const records = () => supplierRecords(fresh.lab, fresh.admin, {});
const recordOf = async (id: number) => (await records()).suppliers.find((one) => one.id === id)!;
const earlier = (supplierId: number, more: object = {}) =>
  addEarlierLot(fresh.lab, fresh.admin, {
    supplierId,
    title: 'Before',
    model: 'Sedge P104',
    chemistry: 'LFP',
    arrivedOn: '2025-03-02',
    cells: 100,
    judged: 40,
    met: 30,
    claimedKwh: 33.3,
    goodKwh: 28,
    landed: 4000,
    ...more,
  });

describe('the record of a supplier', () => {
  let lot: Awaited<ReturnType<typeof paidLot>>['lot'];
  beforeAll(async () => {
    ({ lot } = await paidLot(fresh));
  });

  it('counts what was tested here, with the same figures as the lot’s own books', async () => {
    const record = await recordOf(lot.supplierId);
    const books = await lotBooks(fresh.lab, fresh.admin, { lotId: lot.id });
    expect(record).toMatchObject({ cells: 4, daysToDeliver: { mean: 10, lots: 1 } });
    const [own] = record.lots;
    expect(own).toMatchObject({ judged: 2, met: 2, tested: 2, landedCents: books.totalCents });
    // Two of four tested: the record says of the lot what they say; the books tell the tested alone.
    expect(own!.goodKwh! / 2).toBeCloseTo(books.units.kwhGood, 4);
    expect(own!.margin).toBeCloseTo(112 / 104 - 1, 1);
    expect(record.share).toMatchObject({ judged: 2, met: 2, lots: 1 });
    expect(record.share!.low).toBeLessThan(0.7);
  });

  it('does not speak for a lot of which hardly anything was tested', async () => {
    const lot = await claimedLot(fresh, 12);
    const [cell] = await lotCells(fresh.lab, fresh.admin, { lotId: lot.id });
    await importLog(fresh.lab, fresh.admin, {
      lotId: lot.id,
      cellId: cell!.id,
      fileName: 'one-of-twelve.csv',
      bytes: logOf(9100),
    });
    const record = await recordOf(lot.supplierId);
    expect(record.lots[0]).toMatchObject({ tested: 1, judged: 1, goodKwh: null });
    expect(record).toMatchObject({ centsPerGoodKwh: null, expected: { ownLots: 0 } });
  });

  it('takes in lots from before, and leaves them out once taken back', async () => {
    const { id: supplierId } = await addSupplier(fresh.lab, fresh.admin, { name: 'Old Friend' });
    expect((await recordOf(supplierId)).share?.judged).toBe(0);
    const { id } = await earlier(supplierId);
    const record = await recordOf(supplierId);
    expect(record.lots).toMatchObject([{ source: 'earlier', code: null, judged: 40, met: 30 }]);
    expect(record.centsPerGoodKwh).toBeCloseTo(400_000 / 28, 6);
    expect(record.share!.share).toBeGreaterThan(0.75);
    expect(record.expected!.good).toBeLessThan(1);
    const before = (await records()).prior!.mean;
    await takeBackEarlierLot(fresh.lab, fresh.admin, { id, reason: 'another supplier’s' });
    expect((await recordOf(supplierId)).lots).toEqual([]);
    expect((await records()).prior!.mean).not.toBe(before);
    const again = takeBackEarlierLot(fresh.lab, fresh.admin, { id, reason: 'twice' });
    expect((await failure(again)).code).toBe('conflict');
    for (const [wrong, words] of [
      [{ judged: 101 }, /at most the 100 cells/],
      [{ met: 41 }, /at most the 40/],
      [{ goodKwh: 90 }, /half as much again/],
      [{ cells: 0 }, /1 or more/],
      [{ arrivedOn: '9999-01-01' }, /Expected a day/],
      [{ arrivedOn: '2098-01-01' }, /a day that has come/],
      [{ dead: 101 }, /at most the 100 cells/],
      [{ copies: 101 }, /at most the 100 cells/],
    ] as const)
      expect((await failure(earlier(supplierId, wrong))).message).toMatch(words);
  });

  it('shows hearsay and counts it nowhere', async () => {
    const before = await recordOf(lot.supplierId);
    await addSupplierNote(fresh.lab, fresh.admin, {
      supplierId: lot.supplierId,
      isHearsay: true,
      text: 'All of theirs are short, they say',
      source: 'somebody at the quay',
    });
    const { said, ...after } = await recordOf(lot.supplierId);
    expect(said).toMatchObject([{ isHearsay: true, source: 'somebody at the quay' }]);
    const { said: _, ...rest } = before;
    expect(after).toEqual(rest);
  });

  it('goes over with a supplier that is another one', async () => {
    const one = await addSupplier(fresh.lab, fresh.admin, { name: 'Two Names A' });
    const two = await addSupplier(fresh.lab, fresh.admin, { name: 'Two Names B' });
    await earlier(one.id, { title: 'Went over' });
    await mergeSuppliers(fresh.lab, fresh.admin, {
      id: one.id,
      version: one.version,
      into: two.id,
      reason: 'one house',
    });
    expect((await recordOf(two.id)).lots).toMatchObject([{ title: 'Went over' }]);
    expect((await failure(earlier(one.id))).code).toBe('conflict');
  });

  it('is in one currency: without a day’s rate another one is in no comparison', async () => {
    const { lot: foreign } = await paidLot(fresh);
    await fresh.lab.store.lots.update({ currency: 'CHF' }, { id: foreign.id });
    expect((await recordOf(foreign.supplierId)).lots[0]!.landedCents).toBeNull();
    const keep = (rate: object) =>
      keepBooks(fresh.lab, fresh.admin, {
        lotId: foreign.id,
        version: 0,
        linePct: 80,
        gradePrices: {},
        ...rate,
      });
    expect((await failure(keep({ rate: 1.05 }))).message).toMatch(/day of the rate/);
    await keep({ rate: 1.05, rateOn: '2026-01-02' });
    expect((await recordOf(foreign.supplierId)).lots[0]!.landedCents).toBe(10_511);
    const books = await lotBooks(fresh.lab, fresh.admin, { lotId: foreign.id });
    expect(books.inHouse).toMatchObject({ currency: 'EUR', totalCents: 10_511 });
    expect(books.currency).toBe('CHF');
  });
});

describe('an offer', () => {
  const offer = { chemistry: 'LFP' as const, claimedAh: 104, cells: 32, price: 1360 };
  const check = (more: object = {}) => checkOffer(fresh.lab, fresh.admin, { ...offer, ...more });

  it('is read from its text, and held against what can be', async () => {
    const hints = await offerHints(fresh.lab, fresh.admin, {
      text: '26650 NMC 9900 mAh brand new, 60 pcs, 95 g each',
    });
    const of = (kind: string) => hints.find((hint) => hint.kind === kind);
    expect(of('capacity')?.value).toBe(9.9);
    const { plausibility } = await check({
      chemistry: of('chemistry')!.text,
      claimedAh: of('capacity')!.value,
      sizeCode: of('sizeCode')!.text,
      massG: of('mass')!.value,
      cells: of('quantity')!.value,
      price: null,
    });
    expect(plausibility.possible).toBe(false);
    expect((await check({ sizeCode: null })).plausibility.possible).toBe(true);
  });

  it('is worth what the lots before it say', async () => {
    const { id: supplierId } = await addSupplier(fresh.lab, fresh.admin, {
      name: `Steady ${randomUUID().slice(0, 4)}`,
    });
    const unknown = await check({ supplierId });
    expect(unknown.similar[0]).toMatchObject({ lots: 0, expected: null });
    expect(unknown.worthCents, 'no target yet').toBeNull();
    for (let i = 0; i < 4; i++)
      await earlier(supplierId, { title: `Steady ${i}`, goodKwh: 16, judged: 40, met: 4 });
    const poor = await check({ supplierId });
    expect(poor.cost!.cents).toBeGreaterThan(unknown.cost!.cents);
    expect(poor.similar[0]!.share!.share).toBeLessThan(0.4);
    await setTarget(fresh.lab, fresh.admin, { perKwh: 120, reason: 'what sets bring' });
    const told = await check({ supplierId, beside: 40 });
    expect(told.targetCents).toBe(12_000);
    // At that price the expected cost is the target.
    const at = await check({ supplierId, beside: 40, price: told.worthCents! / 100 });
    expect(at.cost!.cents).toBeCloseTo(12_000, 0);
    expect(told.samples.length).toBeGreaterThan(2);
    expect((await failure(check({ supplierId: 99_999 }))).code).toBe('notFound');
    expect((await failure(check({ cells: 0 }))).message).toMatch(/1 or more/);
  });
});
