import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { TestProject } from 'vitest/node';
import { bundleWorkers } from '../../scripts/lib/build.mjs';
import { startDatabase } from '../../scripts/lib/database.mjs';
import { ensureDebianPackages } from '../../scripts/lib/setup.mjs';

declare module 'vitest' {
  interface ProvidedContext {
    databaseUrl: string;
  }
}

/** A private MariaDB in a temporary folder for the whole test run. */
export default async function setup(project: TestProject) {
  await ensureDebianPackages(['mariadb-server']);
  const home = mkdtempSync(join(tmpdir(), 'dusk-test-'));
  const [database] = await Promise.all([startDatabase(home), bundleWorkers()]);
  project.provide('databaseUrl', database.url());
  return async () => {
    await database.stop();
    rmSync(home, { recursive: true, force: true });
  };
}
