import { besideLot, decidedGrade, gradeCell, needsLot } from '@dusk-tally/core/verdicts';
import type { StandingRow, Transaction } from '@dusk-tally/store';
import type { Derivation } from '../../derived';
import { hashOf } from '../../evidence';
import { loadClaim } from '../../lots';
import { found, type Lab } from '../../shared';
import { refreshGrounds, storedGrounds } from './grounds';
import { saidOf } from './said-of-cells';
import { schemeFor } from './schemes';

/**
 * Grades the cells of a lot anew by what they are known by: another scheme changes nothing of what was
 * measured or judged. Rows that come out as they were stay.
 */
async function regradeLot(lab: Lab, lotId: number, transaction: Transaction): Promise<void> {
  const { verdicts, settings } = lab.store;
  const { model } = await loadClaim(lab, lotId, transaction);
  const scheme = await schemeFor(lab, model, transaction);
  if (needsLot(scheme)) await refreshGrounds(lab, lotId, transaction);
  const grounds = needsLot(scheme) ? await storedGrounds(lab, lotId, transaction) : null;
  const [standings, held, said, house] = await Promise.all([
    verdicts.standings.find({ lotId }, { transaction }),
    verdicts.assessments.find(
      { lotId, item: 'capacity', state: 'held' },
      { transaction, columns: ['cellId'] },
    ),
    saidOf(lab, lotId, null, transaction),
    settings.one({ id: 1 }, { transaction }),
  ]);
  const { guardFactor } = found(house, 'The lab’s settings');
  const isHeld = new Set(held.map(({ cellId }) => cellId));
  const changed = standings.flatMap((row): StandingRow[] => {
    const { cellId, detail, evidence } = row;
    const decision = said.decisions.get(cellId);
    const byScheme = gradeCell(scheme, besideLot(evidence, grounds, String(cellId)), guardFactor);
    const { grade, reasons, waitingFor } = decision
      ? decidedGrade(scheme, byScheme, decision, evidence.marks)
      : byScheme;
    // What is held waits for a look, whatever a scheme would ask for.
    const waits = isHeld.has(cellId) && !decision ? detail.waitingFor : waitingFor;
    const before = JSON.stringify([row.grade, detail.reasons, detail.waitingFor]);
    if (before === JSON.stringify([grade, reasons, waits])) return [];
    return [
      {
        ...row,
        grade,
        detail: { ...detail, reasons, waitingFor: waits },
        inputHash: hashOf([row.inputHash, scheme]),
        updatedAt: lab.now(),
      },
    ];
  });
  await verdicts.standings.replaceMany(changed, transaction);
}

/** Grades by another scheme, from what cells are graded by: nothing is judged anew for it. */
export const gradedCells: Derivation = {
  name: 'graded cells',
  reads: ['gradeScheme'],
  makes: [],
  refresh: async (lab, touched, transaction) => {
    for (const { lotId } of touched) await regradeLot(lab, lotId, transaction);
    return [];
  },
};
