import { spawn } from 'node:child_process';
import { createReadStream, createWriteStream } from 'node:fs';
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

/** Makes an empty database. @throws where it is there. */
function make(address) {
  const args = ['-e', `CREATE DATABASE \`${nameIn(address)}\` CHARACTER SET utf8mb4`];
  return ended(client('mariadb', address, args, ['ignore', 'inherit', 'inherit']), 'Making it');
}

function dump(address) {
  const args = ['--single-transaction', '--hex-blob', '--triggers', '--skip-lock-tables'];
  return client('mariadb-dump', address, [...args, nameIn(address)], ['ignore', 'pipe', 'inherit']);
}

/** Lets a stream of statements run on a database. */
async function pour(statements, address) {
  const load = client('mariadb', address, [nameIn(address)], ['pipe', 'inherit', 'inherit']);
  await Promise.all([pipeline(statements, load.stdin), ended(load, 'mariadb')]);
}

/** Copies a database whole to a new one on the same or another server. @throws where the other is there. */
export async function copyDatabase(from, to) {
  await make(to);
  const out = dump(from);
  await Promise.all([pour(out.stdout, to), ended(out, 'mariadb-dump')]);
}

/** Writes a database to a file, for `databaseFrom`. */
export async function databaseToFile(from, file) {
  const out = dump(from);
  await Promise.all([pipeline(out.stdout, createWriteStream(file)), ended(out, 'mariadb-dump')]);
}

/** A new database as the file says. @throws where one of its name is there. */
export async function databaseFrom(file, to) {
  await make(to);
  await pour(createReadStream(file), to);
}
