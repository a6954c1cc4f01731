import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { TestProject } from 'vitest/node';
import { parseDatabaseUrl, Store } from '../../store/src';
import { bundleWorkers } from '../../scripts/lib/build.mjs';
import { databaseToFile } from '../../scripts/lib/copy-database.mjs';
import { startDatabase } from '../../scripts/lib/database.mjs';
import { ensureDebianPackages } from '../../scripts/lib/setup.mjs';

declare module 'vitest' {
  interface ProvidedContext {
    /** Address of a database of the server of the tests. */
    databaseUrl: string;
    /** Statements that make the tables of an empty lab. */
    emptyLab: string;
  }
}

/** A private MariaDB in a temporary folder for the whole test run. */
export default async function setup(project: TestProject) {
  await ensureDebianPackages(['mariadb-server']);
  const home = mkdtempSync(join(tmpdir(), 'dusk-test-'));
  const [database] = await Promise.all([startDatabase(home, { forTests: true }), bundleWorkers()]);
  // The tables are made once, by all the steps there were; every test has a copy of them.
  const store = new Store(parseDatabaseUrl(database.url()));
  await store.migrate();
  await store.close();
  const emptyLab = join(home, 'empty-lab.sql');
  await databaseToFile(database.url(), emptyLab);
  project.provide('databaseUrl', database.url());
  project.provide('emptyLab', emptyLab);
  return async () => {
    await database.stop();
    rmSync(home, { recursive: true, force: true });
  };
}
