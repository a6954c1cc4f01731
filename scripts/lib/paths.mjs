import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

/** Root of the checkout. */
export const ROOT = join(dirname(fileURLToPath(import.meta.url)), '..', '..');
export const DATA = join(ROOT, '.data');
export const WORKER_FILE = join(ROOT, 'lab', 'dist', 'worker.mjs');
export const AGENT_FILE = join(ROOT, 'bench', 'dist', 'agent.mjs');
export const SIMULATED_FILE = join(ROOT, 'bench', 'dist', 'simulated.mjs');
