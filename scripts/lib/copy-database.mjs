import { spawn } from 'node:child_process';
import { pipeline } from 'node:stream/promises';

/** A client of MariaDB, told where and as whom. */
function client(command, address, args, stdio) {
  const { hostname, port, username, password } = new URL(address);
  return spawn(command, ['--no-defaults', '-h', hostname, '-P', port, '-u', username, ...args], {
    env: { ...process.env, MYSQL_PWD: decodeURIComponent(password) },
    stdio,
  });
}

const nameIn = (address) => new URL(address).pathname.slice(1);

const ended = (child, what) =>
  new Promise((resolve, reject) => {
    child.once('error', reject);
    child.once('exit', (code) =>
      code === 0 ? resolve() : reject(new Error(`${what} ended with ${code}.`)),
    );
  });

/** Copies a database whole to a new one on the same or another server. @throws where the other is there. */
export async function copyDatabase(from, to) {
  const made = client(
    'mariadb',
    to,
    ['-e', `CREATE DATABASE \`${nameIn(to)}\``],
    ['ignore', 'inherit', 'inherit'],
  );
  await ended(made, 'Making the database');
  const dump = client(
    'mariadb-dump',
    from,
    ['--single-transaction', '--hex-blob', '--triggers', '--skip-lock-tables', nameIn(from)],
    ['ignore', 'pipe', 'inherit'],
  );
  const load = client('mariadb', to, [nameIn(to)], ['pipe', 'inherit', 'inherit']);
  await Promise.all([
    pipeline(dump.stdout, load.stdin),
    ended(dump, 'mariadb-dump'),
    ended(load, 'mariadb'),
  ]);
}
