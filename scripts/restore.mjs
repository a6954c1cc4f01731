import { spawn } from 'node:child_process';
import { createReadStream, existsSync } from 'node:fs';
import { resolve } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { createGunzip } from 'node:zlib';
import { databaseAccess } from './lib/access.mjs';
import { runTypeScript } from './lib/app.mjs';
import { DumpRows, NoBackup } from './lib/dump-rows.mjs';
import { connectTo, countRows, swapDatabases, usersOf } from './lib/swap-databases.mjs';

// Replaces the database by a backup: loaded beside it, checked, then put in its place in one step.
const file = process.argv.slice(2).find((argument) => !argument.startsWith('--'));
if (!file || !process.argv.includes('--replace')) {
  console.error(
    'Usage: npm run restore -- BACKUP.sql.gz --replace\nThe backup takes the place of the present data, which is kept beside it. Stop the app first.',
  );
  process.exit(2);
}
const path = resolve(process.env.INIT_CWD ?? '.', file);
if (!existsSync(path)) {
  console.error(`${path} is not here.`);
  process.exit(2);
}
const { settings, close } = await databaseAccess();
const scratch = `${settings.database}_restore`;

/** Loads a backup into a database of its own. @throws NoBackup for a file that is none, or not whole. */
async function load() {
  const client = spawn(
    'mariadb',
    [
      '--no-defaults',
      // A backup may be anybody's file: nothing in it reaches the shell or other files.
      '--sandbox',
      '--binary-mode',
      '-h',
      settings.host,
      '-P',
      settings.port,
      '-u',
      settings.user,
      '--max-allowed-packet=128M',
      scratch,
    ],
    {
      env: { ...process.env, MYSQL_PWD: settings.password },
      stdio: ['pipe', 'inherit', 'pipe'],
    },
  );
  let said = '';
  client.stderr.on('data', (part) => (said += part));
  const ended = new Promise((done, fail) => {
    client.once('error', fail);
    client.once('exit', done);
  });
  const rows = new DumpRows();
  const poured = pipeline(createReadStream(path), createGunzip(), rows, client.stdin).catch(
    (error) => {
      client.kill();
      // What the client says of its own end tells more than that it no longer listens.
      return error;
    },
  );
  const [failed, code] = [await poured, await ended];
  if (failed instanceof NoBackup) throw failed;
  if (failed && failed.code !== 'EPIPE' && failed.code !== 'ERR_STREAM_PREMATURE_CLOSE')
    throw new NoBackup(`The backup cannot be read: ${failed.message}.`);
  if (failed || code !== 0)
    throw new NoBackup(
      `The backup could not be loaded: ${said.trim() || `mariadb ended with ${code}`}`,
    );
  return rows.rows;
}

/** @throws NoBackup where what was loaded is not what the file holds, or no lab. */
async function checkRows(db, inFile) {
  const loaded = await countRows(db, scratch);
  const missing = ['migrations', 'audit_entries', 'people', 'settings', 'lots', 'cells'].filter(
    (table) => !loaded.has(table),
  );
  if (missing.length > 0)
    throw new NoBackup(`The backup is of no Dusk Tally: it has no table ${missing.join(', ')}.`);
  for (const [table, n] of inFile)
    if (loaded.get(table) !== n)
      throw new NoBackup(
        `The table ${table} has ${loaded.get(table) ?? 'no'} rows where the backup holds ${n}.`,
      );
  return loaded;
}

let db = null;
try {
  db = await connectTo(settings);
  const users = await usersOf(db, settings.database);
  if (users > 0)
    throw new Error(
      `${users} connection${users > 1 ? 's use' : ' uses'} the database ${settings.database} now: stop the app first. Nothing was changed.`,
    );
  await db.query(`DROP DATABASE IF EXISTS \`${scratch}\``);
  await db.query(`CREATE DATABASE \`${scratch}\` CHARACTER SET utf8mb4`);
  try {
    const counts = await checkRows(db, await load());
    await runTypeScript('scripts/check-restored.ts', {
      DUSK_DATABASE_URL: `mariadb://${encodeURIComponent(settings.user)}:${encodeURIComponent(settings.password)}@${settings.host}:${settings.port}/${scratch}`,
      DUSK_RESTORED_DEMO: process.env.DUSK_DATABASE_URL ? '' : '1',
    });
    const stamp = new Date().toISOString().replace(/\D/g, '').slice(0, 14);
    const kept = `${settings.database}_before_${stamp}`;
    const hadAny = await swapDatabases(db, { scratch, database: settings.database, kept });
    console.log(
      `Restored from ${path}: ${['lots', 'cells', 'runs', 'reports'].map((table) => `${counts.get(table) ?? 0} ${table}`).join(', ')}.${hadAny ? ` What was there before is kept in the database ${kept}.` : ''}`,
    );
  } catch (error) {
    await db.query(`DROP DATABASE IF EXISTS \`${scratch}\``).catch(() => undefined);
    throw error;
  }
} catch (error) {
  console.error(
    error instanceof NoBackup ? `${error.message} Nothing was changed.` : error.message,
  );
  process.exitCode = 1;
} finally {
  await db?.end();
  await close();
}
