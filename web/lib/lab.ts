import 'server-only';
import { type Lab, openLab } from '@dusk-tally/lab';

const kept = globalThis as typeof globalThis & { duskLab?: Lab };

/** The lab of this process: a pool of connections and workers, no other state. */
export function lab(): Lab {
  if (!kept.duskLab) {
    const { DUSK_DATABASE_URL, DUSK_WORKER_FILE } = process.env;
    if (!DUSK_DATABASE_URL || !DUSK_WORKER_FILE) {
      throw new Error(
        'Expected DUSK_DATABASE_URL and DUSK_WORKER_FILE in the environment; start with npm run demo or npm start.',
      );
    }
    kept.duskLab = openLab({ databaseUrl: DUSK_DATABASE_URL, workerFile: DUSK_WORKER_FILE });
  }
  return kept.duskLab;
}

export const isDemo = (): boolean => process.env.DUSK_DEMO === '1';
