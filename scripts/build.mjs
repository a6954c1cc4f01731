import { ensureBuild } from './lib/build.mjs';
import { ensureNodeModules } from './lib/setup.mjs';

await ensureNodeModules();
const built = await ensureBuild({ force: process.argv.includes('--force') });
console.log(built ? 'Built.' : 'The build is up to date.');
