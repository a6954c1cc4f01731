import type { ClaimItemRow } from '@dusk-tally/store';
import { procedure } from '../shared';
import { claimChange } from '../inputs';
import { bumpLot, loadClaim, openLot } from '../lots';

/** Replaces a lot's claim. Figures that depend on its cut-off are computed again from the stored traces. */
export const changeClaim = procedure({
  role: 'lead',
  input: claimChange,
  run: async ({ lab, input, transaction, audit, changed }): Promise<void> => {
    const { store } = lab;
    await openLot(lab, input.lotId, transaction);
    await bumpLot(lab, input.lotId, input.version, transaction);
    const { lot } = await loadClaim(lab, input.lotId, transaction);
    const before = await store.claimItems.find({ lotId: lot.id }, { transaction });
    await store.claimItems.remove({ lotId: lot.id }, transaction);
    await store.claimItems.insertMany(
      input.claim.map((item) => ({ ...item, lotId: lot.id })),
      transaction,
    );
    changed({ what: 'claim', lotId: lot.id });
    await audit({
      act: 'changed claim',
      subjectType: 'lot',
      subjectId: lot.code,
      before: plain(before),
      after: input.claim,
    });
  },
});

const plain = (items: ClaimItemRow[]) =>
  items.map(({ kind, value, text, conditions }) => ({ kind, value, text, conditions }));
