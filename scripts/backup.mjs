import { createWriteStream, existsSync, mkdirSync, statSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { createGzip } from 'node:zlib';
import { spawn } from 'node:child_process';
import { databaseAccess } from './lib/access.mjs';
import { DATA } from './lib/paths.mjs';

// Everything is in the database: one consistent dump is the whole backup.
const { settings, close } = await databaseAccess();
const stamp = new Date().toISOString().replace(/[:.]/g, '-');
const file = resolve(
  process.env.INIT_CWD ?? '.',
  process.argv[2] ?? join(DATA, 'backups', `dusk-tally-${stamp}.sql.gz`),
);
try {
  if (existsSync(file)) throw new Error(`${file} exists; a backup is never overwritten.`);
  mkdirSync(join(file, '..'), { recursive: true });
  const dump = spawn(
    'mariadb-dump',
    [
      '--no-defaults',
      '-h',
      settings.host,
      '-P',
      settings.port,
      '-u',
      settings.user,
      '--single-transaction',
      '--hex-blob',
      '--triggers',
      '--skip-lock-tables',
      settings.database,
    ],
    { env: { ...process.env, MYSQL_PWD: settings.password }, stdio: ['ignore', 'pipe', 'inherit'] },
  );
  const ended = new Promise((done) => dump.once('exit', done));
  await pipeline(dump.stdout, createGzip(), createWriteStream(file, { mode: 0o600 }));
  if ((await ended) !== 0)
    throw new Error('mariadb-dump did not finish; the file is not a whole backup.');
  console.log(`Backed up to ${file} (${(statSync(file).size / 1e6).toFixed(1)} MB).`);
} catch (error) {
  console.error(error.message);
  process.exitCode = 1;
} finally {
  await close();
}
