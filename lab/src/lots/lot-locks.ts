import type { ClaimItemRow, LotRow, Transaction } from '@dusk-tally/store';
import { found, type Lab, LabError } from '../shared';

/**
 * A lot that may still be worked on.
 * @param lock holds the lot's row until the transaction ends, for acts that count its cells.
 * @throws when it was called off.
 */
export async function openLot(
  lab: Lab,
  lotId: number,
  transaction: Transaction,
  lock = false,
): Promise<LotRow> {
  const lot = found(
    await lab.store.lots.one({ id: lotId }, { transaction, forUpdate: lock }),
    'That lot',
  );
  if (lot.cancelledAt)
    throw new LabError(
      'conflict',
      `${lot.code} was called off (${lot.cancelReason ?? 'no reason given'}). Nothing was stored; a lead can take it up again.`,
    );
  return lot;
}

const plain = (items: ClaimItemRow[]) =>
  items.map(({ kind, value, text, conditions }) => ({ kind, value, text, conditions }));

/**
 * Changes a lot if nobody else did meanwhile; else shows what they made of it.
 * @param current what is shown then; the claim where nothing else is asked for.
 */
export async function bumpLot(
  lab: Lab,
  lotId: number,
  version: number,
  transaction: Transaction,
  patch: Partial<LotRow> = {},
  current?: (lot: LotRow) => unknown,
): Promise<void> {
  const changed = await lab.store.lots.update(
    { ...patch, version: version + 1 },
    { id: lotId, version },
    transaction,
  );
  if (changed > 0) return;
  const lot = found(await lab.store.lots.one({ id: lotId }, { transaction }), 'That lot');
  throw new LabError(
    'conflict',
    'Someone else changed this lot while you were at it. Nothing was saved; here is what they made of it.',
    {
      current: current
        ? current(lot)
        : {
            version: lot.version,
            claim: plain(
              await lab.store.claimItems.find({ lotId }, { transaction, order: [['id', 'ASC']] }),
            ),
          },
    },
  );
}
