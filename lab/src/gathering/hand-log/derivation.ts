import type { Derivation } from '../../derived';
import type { Change } from '../../shared';
import { handFigure } from './ending';
import { resultOf } from './load';

/** Figures of hand logs that ended, from their points, the claim's cut-off and what held of their tester. */
export const handFigures: Derivation = {
  name: 'figures of hand logs',
  reads: ['handPoints', 'claim', 'cellModel', 'chemistryProfile', 'channelCalibration'],
  makes: ['figures'],
  refresh: async (lab, touched, transaction) => {
    const { hand, figures } = lab.store;
    const made: Change[] = [];
    for (const { lotId, cellIds } of touched) {
      const logs = (
        await hand.logs.find(cellIds ? { lotId, cellId: [...cellIds] } : { lotId }, { transaction })
      ).filter(({ readingId }) => readingId !== null);
      for (const log of logs) {
        const [standing] = await figures.find(
          { readingId: log.readingId!, quantity: 'capacity' },
          { transaction, order: [['id', 'DESC']], limit: 1, columns: ['id', 'inputHash'] },
        );
        const { figure } = await resultOf(lab, log, transaction);
        if (!figure) continue;
        const row = handFigure(log, log.readingId!, figure);
        if (row.inputHash === standing?.inputHash) continue;
        await figures.insertMany([row], transaction);
        made.push({ what: 'figures', lotId, cellIds: [log.cellId] });
      }
    }
    return made;
  },
};
