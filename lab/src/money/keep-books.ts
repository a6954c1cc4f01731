import type { LotBooksRow } from '@dusk-tally/store';
import { booksInput } from '../inputs';
import { openLot, UNTOLD } from '../lots';
import { LabError, procedure } from '../shared';
import { typedBooks } from './typed-books';

/** Keeps what people say of a lot’s money. */
export const keepBooks = procedure({
  role: 'technician',
  input: booksInput,
  run: async ({ lab, actor, input, transaction, audit }): Promise<void> => {
    const lot = await openLot(lab, input.lotId, transaction, true);
    const { books } = lab.store;
    const before = await books.one({ lotId: lot.id }, { transaction });
    if ((before?.version ?? 0) !== input.version)
      throw new LabError(
        'conflict',
        `Somebody changed the books of ${lot.code} meanwhile. Nothing was stored; what they made of them is here now.`,
        { current: typedBooks(before ?? UNTOLD, Object.keys(input.gradePrices)) },
      );
    const prices = Object.entries(input.gradePrices).filter(([, price]) => price !== null);
    const after: Omit<LotBooksRow, 'id' | 'version'> = {
      lotId: lot.id,
      minutes: input.minutes,
      centsPerMinute: input.perMinute,
      line: input.linePct / 100,
      gradePrices: Object.fromEntries(prices) as Record<string, number>,
      refundCents: input.refund,
      returnFreightCents: input.returnFreight,
      packingMinutes: input.packingMinutes,
      partialRefundCents: input.partialRefund,
      replacementCents: input.replacement,
      asksTesting: input.asksTesting,
      rate: input.rate,
      rateOn: input.rate === null ? null : input.rateOn,
      benchCentsPerHour: input.benchPerHour,
      centsPerKwh: input.perKwh,
      claimedCycles: input.claimedCycles,
      returnDays: input.returnDays,
      partialDays: input.partialDays,
      personId: actor.id,
      at: lab.now(),
    };
    if (before)
      await books.update({ ...after, version: before.version + 1 }, { id: before.id }, transaction);
    else await books.insert(after, transaction);
    await audit({
      act: 'kept the books',
      subjectType: 'lot',
      subjectId: lot.code,
      before,
      after,
    });
  },
});
