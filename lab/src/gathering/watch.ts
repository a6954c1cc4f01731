import { raiseOverdue } from '../bench';
import type { Lab } from '../shared';
import { foldEnded } from './fold';
import { layDoneToRest } from './then-rest';

/**
 * What the app does by itself from time to time: runs that ended become evidence, cells left at
 * their cut-off are told of, those a recipe leaves full are laid to rest. Any number of processes may do it at once.
 */
export async function watchBench(lab: Lab): Promise<void> {
  await raiseOverdue(lab);
  await foldEnded(lab);
  await layDoneToRest(lab);
}
