import { parseDatabaseUrl, QueryTypes } from '@dusk-tally/store';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type FreshLab, freshLab } from '../../lab/testing/fresh-lab';
import { openConnection, Table, Tables } from '../src/base';

/** A column as the database has it. */
interface Stored {
  tableName: string;
  columnName: string;
  columnType: string;
  key: string;
}

/** A column as its table declares it. */
interface Declared {
  type: { toString(options: object): string; options?: unknown };
  primaryKey?: boolean;
  autoIncrement?: boolean;
}

/** All tables of the store, however deep they stand. */
function tablesOf(tables: object): Table<object>[] {
  return Object.values(tables).flatMap((value: unknown) => {
    if (value instanceof Table) return [value];
    return value instanceof Tables ? tablesOf(value) : [];
  });
}

/** What the database may call a column that is declared so. */
const ALLOWED: readonly [declared: RegExp, stored: RegExp][] = [
  [/^TINYINT\(1\)$/, /^tinyint\(1\)$/],
  [/^INTEGER\(?\d*\)? UNSIGNED$/, /^(tiny|small|medium|big)?int\(\d+\) unsigned$/],
  [/^INTEGER/, /^(small|medium|big)?int\(\d+\)/],
  [/^VARCHAR/, /^(varchar\(\d+\)|char\(\d+\)|(medium|long)?text|enum\()/],
  [/^LONGTEXT$/, /^((medium|long)?text|varchar\(\d+\))$/],
  // Counts of bytes pass what a whole column takes; they come back as numbers this way.
  [/^DOUBLE/, /^(double|bigint\(\d+\) unsigned)$/],
  [/^DECIMAL\(14,2\)$/, /^decimal\(14,2\)$/],
  [/^DATETIME\(3\)$/, /^datetime\(3\)$/],
  [/^DATE$/, /^date$/],
  [/^LONGBLOB$/, /^(medium|long)blob$/],
];

describe('what the tables declare is what the migrations made', () => {
  let fresh: FreshLab;
  let stored: Map<string, Map<string, Stored>>;
  let tables: Table<object>[];
  const declaredOf = (table: Table<object>) =>
    Object.entries(table['model'].getAttributes()) as unknown[] as [string, Declared][];

  beforeAll(async () => {
    fresh = await freshLab();
    tables = [...new Map(tablesOf(fresh.lab.store).map((table) => [table.name, table])).values()];
    const settings = parseDatabaseUrl(fresh.url);
    const server = openConnection(settings);
    const columns = await server.query<Stored>(
      `SELECT table_name AS tableName, column_name AS columnName, column_type AS columnType,
              column_key AS \`key\`
       FROM information_schema.columns WHERE table_schema = :database`,
      { type: QueryTypes.SELECT, replacements: { database: settings.database } },
    );
    await server.close();
    stored = new Map();
    for (const column of columns) {
      const of = stored.get(column.tableName) ?? new Map<string, Stored>();
      stored.set(column.tableName, of.set(column.columnName, column));
    }
  });
  afterAll(() => fresh.close());

  it('every table is there, and none that nothing reads', () => {
    const declared = tables.map(({ name }) => name).sort();
    // The chain's end and the list of migrations are read in SQL.
    const inSql = ['audit_head', 'migrations'];
    expect([...stored.keys()].filter((name) => !inSql.includes(name)).sort()).toEqual(declared);
    expect(declared.length).toBeGreaterThan(60);
  });

  it('every column is there, and none that no row has', () => {
    for (const table of tables) {
      const columns = declaredOf(table).map(([name]) => name);
      expect([...stored.get(table.name)!.keys()].sort(), table.name).toEqual(columns.sort());
    }
  });

  it('every column keeps what it is declared to keep', () => {
    const wrong = tables.flatMap((table) =>
      declaredOf(table).flatMap(([name, { type }]) => {
        const declared = type.toString({});
        const { columnType } = stored.get(table.name)!.get(name)!;
        const fits = ALLOWED.some(
          ([asDeclared, asStored]) => asDeclared.test(declared) && asStored.test(columnType),
        );
        return fits ? [] : [`${table.name}.${name}: ${declared} is kept as ${columnType}`];
      }),
    );
    expect(wrong).toEqual([]);
  });

  it('the same columns tell rows apart', () => {
    for (const table of tables) {
      const declared = declaredOf(table)
        .filter(([, column]) => column.primaryKey)
        .map(([name]) => name);
      const inDatabase = [...stored.get(table.name)!.values()]
        .filter(({ key }) => key === 'PRI')
        .map(({ columnName }) => columnName);
      expect(inDatabase.sort(), table.name).toEqual(declared.sort());
    }
  });

  it('every column can be asked for', async () => {
    for (const table of tables) {
      const rows = await table.find({}, { limit: 1 });
      if (rows[0])
        expect(Object.keys(rows[0]).sort(), table.name).toEqual(
          declaredOf(table)
            .map(([name]) => name)
            .sort(),
        );
    }
  });

  it('brought up to date once, there is nothing left to do', async () => {
    expect(await fresh.lab.store.migrate()).toEqual([]);
  });
});
