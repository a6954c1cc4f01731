import { asMark } from '@dusk-tally/core/arrivals';
import type { LotRow } from '@dusk-tally/store';
import { z } from 'zod';
import { lotInput, orderChange } from '../inputs';
import { type Act, found, LabError, procedure } from '../shared';
import {
  bumpLot,
  houseCurrency,
  keepRate,
  numberCells,
  openLot,
  orderCurrency,
  requireCome,
  takeBatch,
} from '../lots';

/** Stores a lot whose input is checked: its claim, and one numbered cell for each that was counted. */
export async function storeLot({
  lab,
  actor,
  input,
  transaction,
  audit,
  changed,
}: Pick<
  Act<z.output<typeof lotInput>, undefined>,
  'lab' | 'actor' | 'input' | 'transaction' | 'audit' | 'changed'
>): Promise<LotRow> {
  const { store } = lab;
  found(await store.suppliers.one({ id: input.supplierId }, { transaction }), 'That supplier');
  found(await store.cellModels.one({ id: input.modelId }, { transaction }), 'That cell model');
  const house = await houseCurrency(lab, transaction);
  const currency = orderCurrency(input, house, input);
  await requireCome(lab, input.arrivedOn, transaction);
  const lotNumber = await store.takeNumbers('lot', 1, transaction);
  const { claim, labels, boxes, clientKey, rate, rateOn, ...rest } = input;
  if (clientKey && !(await takeBatch(lab, clientKey, transaction)))
    throw new LabError(
      'duplicate',
      'This lot was taken in a moment ago; it stands at the top of Arrivals.',
      { link: '/arrivals' },
    );
  const lot = await store.lots.insert(
    {
      ...rest,
      orderedQuantity: input.orderedQuantity ?? (input.quantity || null),
      code: `L-${String(lotNumber).padStart(3, '0')}`,
      currency,
      cancelledAt: null,
      cancelReason: null,
      createdAt: lab.now(),
      clientKey: clientKey ?? null,
    },
    transaction,
  );
  if (currency !== house)
    await keepRate(lab, { lotId: lot.id, rate, rateOn, personId: actor.id }, transaction);
  await store.claimItems.insertMany(
    claim.map((item) => ({ ...item, lotId: lot.id })),
    transaction,
  );
  const cells = await numberCells(
    lab,
    lot.id,
    Array.from({ length: input.quantity }, (_, i) => ({
      label: labels[i] ? asMark(labels[i]) : null,
      box: boxes[i] || null,
    })),
    transaction,
  );
  changed({ what: 'cells', lotId: lot.id });
  await audit({
    act: 'added lot',
    subjectType: 'lot',
    subjectId: lot.code,
    after: {
      ...rest,
      currency,
      rate,
      rateOn,
      claim,
      cells: cells ? `${cells.first} to ${cells.last}` : 'none yet',
    },
  });
  return lot;
}

/** Takes in a lot of a known supplier and model. */
export const addLot = procedure({
  role: 'lead',
  input: lotInput,
  run: (act): Promise<LotRow> => storeLot(act),
});

const amountOf = (money: string | null): number | null => (money === null ? null : Number(money));

/** What the order of a lot says, as it is changed. */
export const orderOf = (lot: LotRow) => ({
  version: lot.version,
  title: lot.title,
  supplierId: lot.supplierId,
  orderedOn: lot.orderedOn,
  arrivedOn: lot.arrivedOn,
  orderedQuantity: lot.orderedQuantity,
  price: amountOf(lot.price),
  discount: amountOf(lot.discount),
  freight: amountOf(lot.freight),
  duty: amountOf(lot.duty),
  fees: amountOf(lot.fees),
  currency: lot.currency,
});

/** Changes what the order says: name, supplier, dates, quantity ordered, what was paid. */
export const changeOrder = procedure({
  role: 'lead',
  input: orderChange,
  run: async ({ lab, actor, input, transaction, audit, changed }): Promise<void> => {
    const { lotId, version, reason, currency: typed, rate, rateOn, ...order } = input;
    const before = found(await lab.store.lots.one({ id: lotId }, { transaction }), 'That lot');
    const house = await houseCurrency(lab, transaction);
    const currency = typed ?? before.currency;
    const isOther = currency !== before.currency;
    if (isOther) orderCurrency({ currency, rate, rateOn }, house, order);
    const patch = { ...order, currency };
    if (patch.supplierId !== undefined && patch.supplierId !== before.supplierId) {
      const supplier = found(
        await lab.store.suppliers.one({ id: patch.supplierId }, { transaction }),
        'That supplier',
      );
      if (supplier.mergedInto !== null)
        throw new LabError(
          'conflict',
          `${supplier.name} was taken together with another supplier meanwhile. Choose that one.`,
          { field: 'supplierId' },
        );
    }
    if (patch.arrivedOn !== before.arrivedOn)
      await requireCome(lab, patch.arrivedOn ?? null, transaction);
    await bumpLot(lab, lotId, version, transaction, patch, orderOf);
    if (isOther || rate !== null)
      await keepRate(
        lab,
        { lotId, rate: currency === house ? null : rate, rateOn, personId: actor.id },
        transaction,
      );
    if (patch.arrivedOn !== before.arrivedOn) changed({ what: 'arrivalDay', lotId });
    await audit({
      act: 'changed order',
      subjectType: 'lot',
      subjectId: before.code,
      before: Object.fromEntries(
        Object.keys(patch).map((name) => [name, before[name as keyof LotRow]]),
      ),
      after: { ...patch, ...(rate === null ? {} : { rate, rateOn }), reason },
    });
  },
});

/** Calls a lot off. Its records stay; nothing more can be entered until it is taken up again. */
export const cancelLot = procedure({
  role: 'lead',
  input: z.object({
    lotId: z.int(),
    version: z.int(),
    reason: z.string().trim().min(3, 'Expected a reason.').max(400),
  }),
  run: async ({ lab, input, transaction, audit }): Promise<void> => {
    const lot = await openLot(lab, input.lotId, transaction);
    await bumpLot(lab, input.lotId, input.version, transaction, {
      cancelledAt: lab.now(),
      cancelReason: input.reason,
    });
    await audit({
      act: 'called lot off',
      subjectType: 'lot',
      subjectId: lot.code,
      before: { cancelled: false },
      after: { cancelled: true, reason: input.reason },
    });
  },
});

/** Takes a lot up again that was called off. */
export const resumeLot = procedure({
  role: 'lead',
  input: z.object({ lotId: z.int(), version: z.int() }),
  run: async ({ lab, input, transaction, audit }): Promise<void> => {
    const lot = found(await lab.store.lots.one({ id: input.lotId }, { transaction }), 'That lot');
    await bumpLot(lab, input.lotId, input.version, transaction, {
      cancelledAt: null,
      cancelReason: null,
    });
    await audit({
      act: 'took lot up again',
      subjectType: 'lot',
      subjectId: lot.code,
      before: { cancelled: true, reason: lot.cancelReason },
      after: { cancelled: false },
    });
  },
});
