import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { addPaper, disputePaper, lotDisputes, openDispute } from '../src/disputes';
import { lotBooks } from '../src/money';
import { claimedLot, type FreshLab, freshLab } from '../testing/fresh-lab';
import { failure } from '../testing/failure';

let fresh: FreshLab;
beforeAll(async () => {
  fresh = await freshLab();
});
afterAll(() => fresh.close());

describe('a dispute', () => {
  it('asks for something, and for no more than was paid unless it is meant', async () => {
    const lot = await claimedLot(fresh, 2);
    await fresh.lab.store.lots.update({ price: '100.00', discount: '10.00' }, { id: lot.id });
    const open = (more: object) =>
      openDispute(fresh.lab, fresh.admin, {
        lotId: lot.id,
        remedy: 'partialRefund',
        ask: 90,
        language: 'en',
        ...more,
      });
    expect((await failure(open({ ask: 0 }))).message).toMatch(/above 0/);
    expect((await failure(open({ ask: 90.01 }))).message).toMatch(/More than was paid, 90\.00/);
    await open({ ask: 120, remedy: 'return', certain: true });
  });

  it('keeps papers byte for byte, once', async () => {
    const lot = await claimedLot(fresh, 2);
    const { id: disputeId } = await openDispute(fresh.lab, fresh.admin, {
      lotId: lot.id,
      remedy: 'replace',
      ask: 0,
      language: 'en',
    });
    const keep = (bytes: number[]) =>
      addPaper(fresh.lab, fresh.admin, {
        disputeId,
        name: 'answer <1>.pdf',
        type: 'application/pdf',
        bytes: new Uint8Array(bytes),
      });
    const { id } = await keep([1, 2, 3, 250]);
    expect((await keep([1, 2, 3, 250])).id).toBe(id);
    const paper = await disputePaper(fresh.lab, fresh.admin, { id });
    expect([...paper.bytes]).toEqual([1, 2, 3, 250]);
    expect((await failure(keep([]))).message).toMatch(/something in it/);
    expect(
      (await lotDisputes(fresh.lab, fresh.admin, { lotId: lot.id })).disputes[0]!.papers,
    ).toMatchObject([{ name: 'answer <1>.pdf', size: 4 }]);
  });

  it('is proposed nothing as long as no cell was tested', async () => {
    const lot = await claimedLot(fresh, 4);
    await fresh.lab.store.lots.update({ price: '400.00' }, { id: lot.id });
    const books = await lotBooks(fresh.lab, fresh.admin, { lotId: lot.id });
    expect(books.units.tested).toBe(0);
    expect(books.remedies).toBeNull();
    expect(books.shortfall!.cents).toBe(0);
    expect(books.units.perKwhGoodCents).toBeNull();
  });
});
