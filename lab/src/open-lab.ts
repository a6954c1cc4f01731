import { parseDatabaseUrl, Store } from '@dusk-tally/store';
import { openComputePool } from './evidence';
import type { Lab } from './shared';

/** Opens the lab: database and workers. Nothing is kept in the process that another would miss. */
export function openLab(settings: {
  databaseUrl: string;
  workerFile: string;
  now?: () => Date;
}): Lab {
  return {
    store: new Store(parseDatabaseUrl(settings.databaseUrl)),
    compute: openComputePool(settings.workerFile),
    now: settings.now ?? (() => new Date()),
  };
}

/** Closes what `openLab` opened. */
export async function closeLab(lab: Lab): Promise<void> {
  await lab.compute.close();
  await lab.store.close();
}
