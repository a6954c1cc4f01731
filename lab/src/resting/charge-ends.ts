import type { ProgramStep } from '@dusk-tally/core/bench';
import type { Transaction } from '@dusk-tally/store';
import type { Lab } from '../shared';
import { flowedThrough } from './flowed-through';

/** Seconds a program stands still behind its last charge; null where it does not end full. */
function standsAfterCharge(program: readonly ProgramStep[]): number | null {
  let seconds = 0;
  for (const step of program.toReversed()) {
    if (step.kind === 'charge') return step.limitAh === null && !step.endsByTime ? seconds : null;
    if (step.kind === 'rest') seconds += step.seconds;
    else if (step.kind !== 'measure') return null;
  }
  return null;
}

/** A log of a run of our own bench begins within so long of it, ms. */
const SAME_RUN_MS = 5 * 60_000;

/**
 * When the last run of a cell left it full, by cell: a run of the bench, driven or by hand, whose recipe
 * ends with a charge. Cells whose last run did not, or of which a file tells of current after it, are not
 * in it.
 */
export async function chargeEnds(
  lab: Lab,
  cellIds: readonly number[],
  transaction: Transaction,
): Promise<Map<number, Date>> {
  const runs = await lab.store.bench.runs.find(
    { cellId: cellIds },
    { transaction, order: [['startedAt', 'ASC']] },
  );
  const flowed = await flowedThrough(lab, cellIds, transaction);
  const last = new Map(runs.map((run) => [run.cellId, run]));
  return new Map(
    [...last].flatMap(([cellId, { startedAt, endedAt, completed, program }]) => {
      const stands = completed ? standsAfterCharge(program) : null;
      if (!startedAt || !endedAt || stands === null) return [];
      const later = flowed
        .get(cellId)
        ?.some((at) => at.getTime() > startedAt.getTime() + SAME_RUN_MS);
      return later ? [] : [[cellId, new Date(endedAt.getTime() - stands * 1000)] as const];
    }),
  );
}
