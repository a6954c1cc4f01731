import type { Derivation } from '../derived';
import type { Change } from '../shared';
import { loadClaim } from '../lots';
import { refreshMeters } from './channel-effects';
import { renewReadings } from './reading-figures';
import { staleRuns } from './run-inputs';
import { recomputeRuns } from './recompute';

/** Figures of runs from their stored traces. */
export const runFigures: Derivation = {
  name: 'figures of runs',
  reads: ['runs', 'claim', 'cellModel', 'chemistryProfile', 'channelCalibration'],
  makes: ['figures'],
  refresh: async (lab, touched, transaction) => {
    const made: Change[] = [];
    for (const one of touched) {
      const { lotId } = one;
      const { claim } = await loadClaim(lab, lotId, transaction);
      const stale = await staleRuns(lab, one, claim, transaction);
      if (stale.length === 0) continue;
      await recomputeRuns(
        lab,
        lotId,
        claim,
        transaction,
        stale.map(({ id }) => id),
      );
      made.push({
        what: 'figures',
        lotId,
        cellIds: [...new Set(stale.map(({ cellId }) => cellId))],
      });
    }
    return made;
  },
};

/** Figures of typed readings, by what held of their meter on their day. */
export const readingFigures: Derivation = {
  name: 'figures of readings',
  reads: ['channelCalibration'],
  makes: ['figures'],
  refresh: async (lab, touched, transaction) => {
    const made: Change[] = [];
    for (const one of touched) {
      const cellIds = await renewReadings(lab, one, transaction);
      if (cellIds.length > 0) made.push({ what: 'figures', lotId: one.lotId, cellIds });
    }
    return made;
  },
};

/** What repeats say of channels and models, over the whole lab. */
export const channelFit: Derivation = {
  name: 'channels and models',
  reads: ['runs', 'figures', 'holds', 'ruleHolds', 'channelLooks', 'controlCells'],
  makes: ['channelFit'],
  refresh: async (lab, touched, transaction) => {
    const cellIds = touched.flatMap((one) => one.cellIds ?? []);
    const isWide = touched.some((one) => one.cellIds === null);
    // A cell that ran once tells nothing of channels.
    if (!isWide && !(await lab.store.meters.anyRepeated(cellIds, transaction))) return [];
    const lots = await refreshMeters(lab, transaction);
    return lots.map((lotId): Change => ({ what: 'channelFit', lotId }));
  },
};
