import { spawn } from 'node:child_process';
import { createReadStream, existsSync } from 'node:fs';
import { resolve } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { createGunzip } from 'node:zlib';
import { databaseAccess } from './lib/access.mjs';
import { run } from './lib/run.mjs';

// Replaces the database by a backup. Asks for --replace, because what is there now goes.
const file = process.argv.slice(2).find((argument) => !argument.startsWith('--'));
if (!file || !process.argv.includes('--replace')) {
  console.error(
    'Usage: npm run restore -- BACKUP.sql.gz --replace\nThe present data is replaced; back it up first.',
  );
  process.exit(2);
}
const path = resolve(process.env.INIT_CWD ?? '.', file);
if (!existsSync(path)) {
  console.error(`${path} is not here.`);
  process.exit(2);
}
const { settings, close } = await databaseAccess();
const client = ['--no-defaults', '-h', settings.host, '-P', settings.port, '-u', settings.user];
const env = { ...process.env, MYSQL_PWD: settings.password };
try {
  await run(
    'mariadb',
    [
      ...client,
      '-e',
      `DROP DATABASE IF EXISTS \`${settings.database}\`; CREATE DATABASE \`${settings.database}\` CHARACTER SET utf8mb4`,
    ],
    { env },
  );
  const load = spawn('mariadb', [...client, '--max-allowed-packet=128M', settings.database], {
    env,
    stdio: ['pipe', 'inherit', 'inherit'],
  });
  const ended = new Promise((done) => load.once('exit', done));
  await pipeline(createReadStream(path), createGunzip(), load.stdin);
  if ((await ended) !== 0)
    throw new Error(
      'The backup could not be loaded whole. The database is incomplete; restore again from another backup.',
    );
  console.log(`Restored from ${path}.`);
} catch (error) {
  console.error(error.message);
  process.exitCode = 1;
} finally {
  await close();
}
