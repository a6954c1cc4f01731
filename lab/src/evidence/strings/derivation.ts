import type { Derivation } from '../../derived';
import { loadClaim } from '../../lots';
import { watchOf } from './stretches';

/** What logs of strings tell: near full is another voltage where the model is of another class. */
export const watchedStrings: Derivation = {
  name: 'watched strings',
  reads: ['cellModel'],
  makes: [],
  refresh: async (lab, touched, transaction) => {
    for (const { lotId } of touched) {
      const { model } = await loadClaim(lab, lotId, transaction);
      const { chemistry } = model;
      const rows = await lab.store.strings.logs.find({ lotId }, { transaction });
      for (const row of rows.filter((one) => one.chemistry !== chemistry)) {
        const stretch = { fromS: 0, toS: row.durationS };
        const watch = await watchOf(lab, row, chemistry, stretch);
        await lab.store.strings.logs.update({ watch, chemistry }, { id: row.id }, transaction);
      }
    }
    return [];
  },
};
