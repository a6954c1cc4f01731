import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { addLot, changeOrder } from '../src/arrivals';
import { lotBooks } from '../src/money';
import { addEarlierLot, checkOffer, setTarget, supplierRecords } from '../src/records';
import { failure } from '../testing/failure';
import { claimedLot, type FreshLab, freshLab } from '../testing/fresh-lab';

let fresh: FreshLab;
beforeAll(async () => {
  fresh = await freshLab();
});
afterAll(() => fresh.close());

const booksOf = (lotId: number) => lotBooks(fresh.lab, fresh.admin, { lotId });

describe('an order in another currency', () => {
  it('is taken in with the day’s rate, which is kept, and is told in both', async () => {
    const { supplierId, modelId } = await claimedLot(fresh, 1);
    const take = (more: object) =>
      addLot(fresh.lab, fresh.admin, {
        title: 'From overseas',
        supplierId,
        modelId,
        quantity: 2,
        price: 200,
        ...more,
      });
    const without = await failure(take({ currency: 'usd' }));
    expect(without).toMatchObject({
      message: 'Expected what 1 USD was worth in EUR.',
      details: { field: 'rate' },
    });
    expect((await failure(take({ currency: 'USD', rate: 0.9 }))).message).toMatch(
      /day of the rate/,
    );
    expect((await failure(take({ currency: 'XYZQ' }))).message).toMatch(/three letters/);
    expect((await failure(take({ currency: 'USD', rate: 0, rateOn: '2026-03-02' }))).code).toBe(
      'invalid',
    );
    const lot = await take({ currency: 'usd', rate: 0.9, rateOn: '2026-03-02' });
    expect(lot.currency).toBe('USD');
    expect(await booksOf(lot.id)).toMatchObject({
      currency: 'USD',
      houseCurrency: 'EUR',
      totalCents: 20_000,
      kept: { rate: 0.9, rateOn: '2026-03-02' },
      inHouse: { currency: 'EUR', totalCents: 18_000 },
    });
    // An amount in the house’s currency needs none, and neither does an order without amounts.
    expect((await take({ currency: 'EUR' })).currency).toBe('EUR');
    expect((await take({ currency: 'USD', price: null })).currency).toBe('USD');
  });

  it('is mended: the order was in another one, or its rate was typed wrong', async () => {
    const lot = await claimedLot(fresh, 2);
    const change = async (more: object) => {
      const now = (await fresh.lab.store.lots.one({ id: lot.id }))!;
      return changeOrder(fresh.lab, fresh.admin, {
        lotId: lot.id,
        version: now.version,
        title: now.title,
        price: 100,
        reason: 'the invoice',
        ...more,
      });
    };
    expect((await failure(change({ currency: 'GBP' }))).details).toMatchObject({ field: 'rate' });
    await change({ currency: 'GBP', rate: 1.15, rateOn: '2026-03-02' });
    expect((await booksOf(lot.id)).inHouse!.totalCents).toBe(11_500);
    // Another rate; and a change that names none leaves it.
    await change({ currency: 'GBP', rate: 1.2, rateOn: '2026-03-03' });
    await change({ title: 'Another name' });
    expect(await booksOf(lot.id)).toMatchObject({ currency: 'GBP', kept: { rate: 1.2 } });
    // Back in the house’s currency it has no rate.
    await change({ currency: 'EUR' });
    expect(await booksOf(lot.id)).toMatchObject({
      currency: 'EUR',
      kept: { rate: null },
      inHouse: null,
    });
  });
});

describe('what is told of before, and offered', () => {
  it('a lot from before is in the record at its day’s rate, and keeps what was paid', async () => {
    const { supplierId } = await claimedLot(fresh, 1);
    const earlier = (more: object) =>
      addEarlierLot(fresh.lab, fresh.admin, {
        supplierId,
        title: 'Before',
        model: 'P',
        arrivedOn: '2025-03-02',
        cells: 10,
        judged: 10,
        met: 9,
        claimedKwh: 3,
        goodKwh: 2.8,
        landed: 400,
        ...more,
      });
    expect((await failure(earlier({ currency: 'USD' }))).details).toMatchObject({ field: 'rate' });
    const { id } = await earlier({ currency: 'USD', rate: 0.9, rateOn: '2025-03-01' });
    const row = await fresh.lab.store.supplying.earlierLots.one({ id });
    expect(row).toMatchObject({
      landedCents: 36_000,
      paidCents: 40_000,
      paidCurrency: 'USD',
      rate: 0.9,
      rateOn: '2025-03-01',
    });
    const { suppliers } = await supplierRecords(fresh.lab, fresh.admin, {});
    const own = suppliers.find((one) => one.id === supplierId)!;
    expect(own.lots.find(({ title }) => title === 'Before')).toMatchObject({
      landedCents: 36_000,
    });
  });

  it('an offer in dollars is compared in euros, and one without a price told what it is worth', async () => {
    await setTarget(fresh.lab, fresh.admin, { perKwh: 150, reason: 'what they bring' });
    const offer = (more: object) =>
      checkOffer(fresh.lab, fresh.admin, {
        chemistry: 'LFP',
        claimedAh: 104,
        cells: 32,
        ...more,
      });
    expect((await failure(offer({ price: 1000, currency: 'USD' }))).details).toMatchObject({
      field: 'rate',
    });
    const euros = await offer({ price: 900, beside: 90 });
    const dollars = await offer({ price: 1000, beside: 100, currency: 'USD', rate: 0.9 });
    expect(dollars.cost).toEqual(euros.cost);
    expect(dollars.worthCents).toBe(euros.worthCents);
    expect(dollars.paidIn).toEqual({ currency: 'USD', rate: 0.9 });
    const unpriced = await offer({});
    expect(unpriced.cost).toBeNull();
    expect(unpriced.worthCents).toBeGreaterThan(0);
    // 0 is no price: nothing is said of what a kWh costs.
    expect((await offer({ price: 0 })).cost).toBeNull();
    // What is shown of a supplier nobody knows is what the price is reckoned with.
    const used = euros.similar.find(({ isReckonedWith }) => isReckonedWith)!;
    expect(used.of).toBe('all suppliers');
    expect(euros.cost!.cents).toBeCloseTo(99_000 / (euros.claimedKwh * used.expected!.good), 6);
    expect(euros.cost!.low).toBeCloseTo(99_000 / (euros.claimedKwh * used.expected!.high), 6);
  });
});
