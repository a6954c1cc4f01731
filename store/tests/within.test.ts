import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Transaction } from '@dusk-tally/store';
import { procedure } from '../../lab/src';
import { claimedLot, type FreshLab, freshLab } from '../../lab/testing/fresh-lab';
import { z } from 'zod';

describe('the store within a transaction', () => {
  let fresh: FreshLab;
  beforeAll(async () => {
    fresh = await freshLab();
  });
  afterAll(() => fresh.close());
  const store = () => fresh.lab.store;
  const stop = new Error('Nothing of this stays.');

  it('reads and writes inside it, whether or not that is said', async () => {
    const lot = await claimedLot(fresh, 3);
    await expect(
      store().transaction(async (transaction) => {
        const bound = store().within(transaction);
        await bound.lots.update({ title: 'inside' }, { id: lot.id });
        await bound.arrivals.offers.insert({
          lotId: lot.id,
          text: 'ten cells',
          personId: fresh.admin.id,
          at: new Date(),
        });
        await bound.bench.countRequest(1, new Date());
        expect((await bound.lots.one({ id: lot.id }))!.title).toBe('inside');
        expect(await bound.arrivals.offers.count({ lotId: lot.id })).toBe(1);
        // Nobody outside sees any of it.
        expect((await store().lots.one({ id: lot.id }))!.title).toBe('Prismatic');
        expect(await store().arrivals.offers.count({ lotId: lot.id })).toBe(0);
        throw stop;
      }),
    ).rejects.toBe(stop);
    expect((await store().lots.one({ id: lot.id }))!.title).toBe('Prismatic');
  });

  it('questions in SQL are inside it too', async () => {
    const lot = await claimedLot(fresh, 2);
    await expect(
      store().transaction(async (transaction) => {
        const bound = store().within(transaction);
        const cells = await bound.cells.find({ lotId: lot.id });
        await bound.readings.insert({
          cellId: cells[0]!.id,
          lotId: lot.id,
          kind: 'mass',
          value: 12,
          decimals: 0,
          repeats: null,
          probe: null,
          purpose: 'arrival',
          instrumentId: null,
          clientKey: '00000000-0000-4000-8000-00000000abcd',
          keptDespite: null,
          personId: fresh.admin.id,
          at: new Date(),
        });
        expect(await bound.evidence.latestReadings(lot.id, null)).toHaveLength(1);
        expect(await store().evidence.latestReadings(lot.id, null)).toHaveLength(0);
        throw stop;
      }),
    ).rejects.toBe(stop);
  });

  it('a transaction within a transaction is part of it', async () => {
    const lot = await claimedLot(fresh, 1);
    await expect(
      store().transaction(async (transaction) => {
        const bound = store().within(transaction);
        await bound.transaction((inner) =>
          bound.lots.update({ title: 'deeper' }, { id: lot.id }, inner),
        );
        throw stop;
      }),
    ).rejects.toBe(stop);
    expect((await store().lots.one({ id: lot.id }))!.title).toBe('Prismatic');
  });

  it('an attempt that fails undoes itself alone', async () => {
    const lot = await claimedLot(fresh, 1);
    const done = await store().transaction(async (transaction) => {
      const bound = store().within(transaction);
      await bound.lots.update({ title: 'kept' }, { id: lot.id });
      return bound.attempt(transaction, async (inner) => {
        await bound.lots.update({ title: 'undone' }, { id: lot.id }, inner);
        throw stop;
      });
    });
    expect(done).toEqual({ ok: false, error: stop });
    expect((await store().lots.one({ id: lot.id }))!.title).toBe('kept');
  });

  it('a deadlock within an attempt begins the whole transaction again', async () => {
    const [first, second] = [await claimedLot(fresh, 1), await claimedLot(fresh, 1)];
    let [begun, other] = [0, 0];
    let [firstHeld, secondHeld] = [() => {}, () => {}];
    const bothHeld = Promise.all([
      new Promise<void>((resolve) => (firstHeld = resolve)),
      new Promise<void>((resolve) => (secondHeld = resolve)),
    ]);
    const title = (id: number, words: string, inner: Transaction) =>
      store().lots.update({ title: words }, { id }, inner);
    const attempted = store().transaction(async (transaction) => {
      begun++;
      await title(first.id, `first ${begun}`, transaction);
      firstHeld();
      await bothHeld;
      return store().attempt(transaction, (inner) => title(second.id, 'attempted', inner));
    });
    const against = store().transaction(async (transaction) => {
      other++;
      await title(second.id, 'other', transaction);
      secondHeld();
      await bothHeld;
      await title(first.id, 'other', transaction);
    });
    expect(await attempted).toMatchObject({ ok: true });
    await against;
    // One of the two was begun again, and whichever came last is what stands, whole.
    expect(begun + other).toBe(3);
    const titles = [first, second].map(async ({ id }) => (await store().lots.one({ id }))!.title);
    expect(await Promise.all(titles)).toEqual(
      begun === 2 ? ['first 2', 'attempted'] : ['other', 'other'],
    );
  });

  it('an act that forgets its transaction is inside it all the same', async () => {
    const lot = await claimedLot(fresh, 1);
    const forgetful = procedure({
      role: 'admin',
      input: z.object({}),
      run: async ({ lab }) => {
        await lab.store.lots.update({ title: 'forgotten' }, { id: lot.id });
        throw stop;
      },
    });
    await expect(forgetful(fresh.lab, fresh.admin, {})).rejects.toBe(stop);
    expect((await store().lots.one({ id: lot.id }))!.title).toBe('Prismatic');
  });
});
