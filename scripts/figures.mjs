import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { ROOT } from './lib/paths.mjs';
import { ensureNodeModules } from './lib/setup.mjs';

await ensureNodeModules();
const result = spawnSync(
  process.execPath,
  [
    '--import',
    join(ROOT, 'node_modules/tsx/dist/loader.mjs'),
    join(ROOT, 'scripts/figures-command.ts'),
    ...process.argv.slice(2),
  ],
  { stdio: 'inherit', cwd: process.env.INIT_CWD ?? process.cwd() },
);
process.exitCode = result.status ?? 1;
