import { createConnection } from 'mariadb';

const name = (part) => `\`${part.replaceAll('`', '``')}\``;

/** A connection to a server, without a database of its own. */
export const connectTo = ({ host, port, user, password }) =>
  createConnection({ host, port: Number(port), user, password, multipleStatements: false });

const tablesOf = async (db, database) =>
  (
    await db.query(
      "SELECT TABLE_NAME AS t FROM information_schema.TABLES WHERE TABLE_SCHEMA = ? AND TABLE_TYPE = 'BASE TABLE'",
      [database],
    )
  ).map(({ t }) => t);

const triggersOf = (db, database) =>
  db.query(
    'SELECT TRIGGER_NAME AS trigger_name, EVENT_OBJECT_TABLE AS on_table, ACTION_TIMING AS at_time, ' +
      'EVENT_MANIPULATION AS event, ACTION_STATEMENT AS does FROM information_schema.TRIGGERS WHERE TRIGGER_SCHEMA = ?',
    [database],
  );

const dropTriggers = async (db, database, triggers) => {
  for (const { trigger_name: own } of triggers)
    await db.query(`DROP TRIGGER IF EXISTS ${name(database)}.${name(own)}`);
};

const makeTriggers = async (db, database, triggers) => {
  for (const { trigger_name: own, on_table: table, at_time: time, event, does } of triggers)
    await db.query(
      `CREATE TRIGGER IF NOT EXISTS ${name(database)}.${name(own)} ${time} ${event} ON ${name(database)}.${name(table)} FOR EACH ROW ${does}`,
    );
};

/** How many others use a database now. */
export const usersOf = async (db, database) => {
  const rows = await db.query(
    'SELECT COUNT(*) AS n FROM information_schema.PROCESSLIST WHERE DB = ? AND ID <> CONNECTION_ID()',
    [database],
  );
  return Number(rows[0].n);
};

/** Rows of each table of a database, by its name. */
export async function countRows(db, database) {
  const counts = new Map();
  for (const table of await tablesOf(db, database)) {
    const [{ n }] = await db.query(`SELECT COUNT(*) AS n FROM ${name(database)}.${name(table)}`);
    counts.set(table, Number(n));
  }
  return counts;
}

/**
 * Puts the tables of one database in the place of another’s, which are kept in a third: one
 * statement, all or none. Triggers cannot move with their tables; they are made again.
 */
export async function swapDatabases(db, { scratch, database, kept }) {
  await db.query(`CREATE DATABASE IF NOT EXISTS ${name(database)} CHARACTER SET utf8mb4`);
  await db.query(`CREATE DATABASE ${name(kept)} CHARACTER SET utf8mb4`);
  const [old, fresh] = [await triggersOf(db, database), await triggersOf(db, scratch)];
  const [oldTables, newTables] = [await tablesOf(db, database), await tablesOf(db, scratch)];
  await dropTriggers(db, scratch, fresh);
  await dropTriggers(db, database, old);
  const moves = [
    ...oldTables.map((t) => `${name(database)}.${name(t)} TO ${name(kept)}.${name(t)}`),
    ...newTables.map((t) => `${name(scratch)}.${name(t)} TO ${name(database)}.${name(t)}`),
  ];
  try {
    await db.query(`RENAME TABLE ${moves.join(', ')}`);
  } catch (error) {
    await makeTriggers(db, database, old);
    await db.query(`DROP DATABASE ${name(kept)}`);
    throw error;
  }
  await makeTriggers(db, database, fresh);
  await makeTriggers(db, kept, old);
  await db.query(`DROP DATABASE ${name(scratch)}`);
  // An empty one was in its place: there is nothing to keep.
  if (oldTables.length === 0) await db.query(`DROP DATABASE ${name(kept)}`);
  return oldTables.length > 0;
}
