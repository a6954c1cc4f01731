import { centsOf, centsText } from '@dusk-tally/core/money';
import type { DisputeRow, LotRow, Transaction } from '@dusk-tally/store';
import type { z } from 'zod';
import type { disputeInput, disputeMove } from '../inputs';
import { labDay } from '../lots';
import { found, type Lab, LabError } from '../shared';

/**
 * An amount nobody would ask for is asked about: nothing at all, or more than the order cost.
 * @throws LabError unless somebody says it is so.
 */
export function requireSensible(
  lot: LotRow,
  { remedy, ask, certain }: Pick<z.output<typeof disputeInput>, 'remedy' | 'ask' | 'certain'>,
): void {
  if (ask === 0 && remedy !== 'replace')
    throw new LabError('invalid', 'Expected an amount above 0.', { field: 'ask' });
  if (lot.price === null || certain) return;
  const paid = centsOf(lot.price) - (lot.discount === null ? 0 : centsOf(lot.discount));
  if (ask > paid)
    throw new LabError(
      'invalid',
      `More than was paid, ${centsText(paid)} ${lot.currency}. If it is meant, tick “The amount is right”.`,
      { field: 'ask' },
    );
}

/** What was agreed on or paid. @throws LabError for nothing, and for more than was asked unless it is so. */
export function requirePaid(
  { askCents }: DisputeRow,
  { stage, amount, certain }: Pick<z.output<typeof disputeMove>, 'stage' | 'amount' | 'certain'>,
): void {
  if ((stage !== 'agreed' && stage !== 'paid') || amount === null) return;
  if (amount === 0)
    throw new LabError(
      'invalid',
      'Expected an amount above 0. Where nothing is paid the dispute is lost.',
      { field: 'amount' },
    );
  if (amount > askCents && !certain)
    throw new LabError(
      'invalid',
      `More than was asked, ${centsText(askCents)}. If it is so, tick “The amount is right”.`,
      { field: 'amount' },
    );
}

/** @throws LabError for a day to come, before the order, or before what happened last. */
export async function requireDay(
  lab: Lab,
  { id, lotId }: DisputeRow,
  day: string,
  transaction: Transaction,
): Promise<void> {
  if (day > (await labDay(lab, transaction)))
    throw new LabError('invalid', 'Expected a day that has come.', { field: 'day' });
  const lot = found(await lab.store.lots.one({ id: lotId }, { transaction }), 'The lot');
  const begun = lot.orderedOn ?? lot.arrivedOn;
  if (begun !== null && day < begun)
    throw new LabError('invalid', `Expected a day from the order on, ${begun}.`, { field: 'day' });
  const steps = await lab.store.disputing.events.find({ disputeId: id }, { transaction });
  const undone = new Set(steps.map(({ undoes }) => undoes));
  const last = steps
    .filter((step) => step.stage !== 'draft' && step.undoes === null && !undone.has(step.id))
    .map((step) => step.day)
    .sort()
    .at(-1);
  if (last !== undefined && day < last)
    throw new LabError('invalid', `Expected a day not before the last step, ${last}.`, {
      field: 'day',
    });
}
