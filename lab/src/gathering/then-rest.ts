import { layToRest } from '../resting';
import { type Lab, LabError, systemActor } from '../shared';

/** Runs that ended longer ago are not laid to rest any more, ms. */
const LOOK_BACK_MS = 2 * 86_400_000;

/**
 * Lays cells on the shelf whose run is done and whose recipe says so. Doing it again changes nothing: a
 * rest since the run began is there already.
 * @returns how many were laid.
 */
export async function layDoneToRest(lab: Lab): Promise<number> {
  const { bench, resting } = lab.store;
  const versions = (await bench.recipeVersions.find({}, { columns: ['id', 'thenRest'] })).filter(
    ({ thenRest }) => thenRest,
  );
  if (versions.length === 0) return 0;
  const protocolOf = new Map(versions.map(({ id, thenRest }) => [id, thenRest!]));
  const since = new Date(lab.now().getTime() - LOOK_BACK_MS);
  const runs = await bench.runs.find({
    recipeVersionId: [...protocolOf.keys()],
    state: 'stored',
    completed: true,
    endedAt: { atLeast: since },
  });
  let laid = 0;
  for (const { cellId, lotId, recipeVersionId, startedAt, personId } of runs) {
    const rests = await resting.rests.find({ cellId }, { columns: ['id', 'fullAt'] });
    if (!startedAt || rests.some(({ fullAt }) => fullAt > startedAt)) continue;
    const actor = await systemActor(lab, personId);
    try {
      laid += (
        await layToRest(lab, actor, {
          lotId,
          cellIds: [cellId],
          protocol: protocolOf.get(recipeVersionId)!,
          fullAt: lab.now().toISOString(),
          fromRun: true,
        })
      ).laid;
    } catch (error) {
      // Set apart meanwhile, on the bench again, its lot called off: it is not laid among others.
      if (!(error instanceof LabError)) throw error;
    }
  }
  return laid;
}
