import { join } from 'node:path';
import { startDatabase } from './database.mjs';
import { DATA } from './paths.mjs';

/**
 * The database the environment names, else the demo's own, started for the time being.
 * @returns {Promise<{ settings: { host: string, port: string, user: string, password: string, database: string }, close: () => Promise<void> }>}
 */
export async function databaseAccess() {
  const named = process.env.DUSK_DATABASE_URL;
  const database = named ? null : await startDatabase(join(DATA, 'demo'));
  const url = new URL(named ?? database.url());
  const settings = {
    host: url.hostname,
    port: url.port || '3306',
    user: decodeURIComponent(url.username),
    password: decodeURIComponent(url.password),
    database: url.pathname.slice(1),
  };
  return {
    settings,
    close: async () => (database && !database.reused ? database.stop() : undefined),
  };
}
