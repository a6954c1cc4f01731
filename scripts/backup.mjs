import { createWriteStream, existsSync, mkdirSync, renameSync, rmSync, statSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { createGzip } from 'node:zlib';
import { spawn } from 'node:child_process';
import { databaseAccess } from './lib/access.mjs';
import { DumpRows } from './lib/dump-rows.mjs';
import { DATA } from './lib/paths.mjs';

// Everything is in the database: one consistent dump is the whole backup.
const { settings, close } = await databaseAccess();
const stamp = new Date().toISOString().replace(/[:.]/g, '-');
const file = resolve(
  process.env.INIT_CWD ?? '.',
  process.argv[2] ?? join(DATA, 'backups', `dusk-tally-${stamp}.sql.gz`),
);
/** Under its own name only once it is whole. */
const part = `${file}.part`;
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
  const ended = new Promise((done, fail) => {
    dump.once('error', fail);
    dump.once('exit', done);
  });
  const rows = new DumpRows();
  const [code] = await Promise.all([
    ended,
    pipeline(
      dump.stdout,
      rows,
      createGzip(),
      createWriteStream(part, { mode: 0o600, flush: true }),
    ),
  ]);
  if (code !== 0) throw new Error('mariadb-dump did not finish; there is no backup.');
  if (!rows.rows.has('audit_entries')) throw new Error('There is no lab in this database yet.');
  renameSync(part, file);
  console.log(`Backed up to ${file} (${(statSync(file).size / 1e6).toFixed(1)} MB).`);
} catch (error) {
  rmSync(part, { force: true });
  console.error(error.message);
  process.exitCode = 1;
} finally {
  await close();
}
