import { mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { keptSecret, runTypeScript, startApp } from './lib/app.mjs';
import { startBench } from './lib/bench.mjs';
import { ensureBrowser } from './lib/browser.mjs';
import { ensureBuild } from './lib/build.mjs';
import { copyDatabase } from './lib/copy-database.mjs';
import { freePort, startDatabase } from './lib/database.mjs';
import { ROOT } from './lib/paths.mjs';
import { isStopping, onStop, run, stop } from './lib/run.mjs';
import { ensureDebianPackages, ensureNodeModules } from './lib/setup.mjs';

const total = { passed: 0, failed: 0, skipped: 0 };
const home = mkdtempSync(join(tmpdir(), 'dusk-e2e-'));
let database = null;
const apps = [];
const benches = [];

async function cleanUp() {
  await Promise.all(benches.map((bench) => bench.stop()));
  await Promise.all(apps.map((app) => stop(app.child)));
  await database?.stop();
  rmSync(home, { recursive: true, force: true });
}
onStop(cleanUp);

const bin = (name) => join(ROOT, 'node_modules', '.bin', name);

/** A check that passes or fails as a whole. */
async function check(name, command, args, options = {}) {
  const started = Date.now();
  try {
    await run(command, args, { stdio: ['ignore', 'pipe', 'pipe'], ...options });
    total.passed++;
    console.log(`ok    ${name} (${((Date.now() - started) / 1000).toFixed(0)} s)`);
  } catch (error) {
    if (isStopping()) return;
    total.failed++;
    console.log(`FAIL  ${name}\n${error.output || error.message}`);
  }
}

/** Known weaknesses of what ships; passed over with a word when the registry is out of reach. */
async function audit() {
  let output = '';
  try {
    output = await run('npm', ['audit', '--omit=dev', '--audit-level=high', '--json'], {
      stdio: ['ignore', 'pipe', 'ignore'],
    });
  } catch (error) {
    output = error.output ?? '';
  }
  let result = null;
  try {
    result = JSON.parse(output.slice(output.indexOf('{')));
  } catch {
    // Handled below: no answer that can be read.
  }
  const counts = result?.metadata?.vulnerabilities;
  if (!counts) {
    total.skipped++;
    console.log('skip  npm audit (the registry does not answer)');
  } else if (counts.high + counts.critical > 0) {
    total.failed++;
    console.log(
      `FAIL  npm audit: ${counts.high} high, ${counts.critical} critical\n${Object.keys(result.vulnerabilities ?? {}).join(', ')}`,
    );
  } else {
    total.passed++;
    console.log('ok    npm audit');
  }
}

/** Some of Vitest's projects; counts come from its JSON. */
async function vitest(projects, env = {}) {
  const file = join(home, `vitest-${projects.join('-')}.json`);
  const args = [
    'run',
    ...projects.flatMap((name) => ['--project', name]),
    '--reporter=default',
    '--reporter=json',
    `--outputFile.json=${file}`,
  ];
  await run(bin('vitest'), args, { env: { ...process.env, ...env } }).catch(() => undefined);
  try {
    const { numPassedTests, numFailedTests, numPendingTests, numFailedTestSuites, success } =
      JSON.parse(readFileSync(file, 'utf8'));
    total.passed += numPassedTests;
    total.failed +=
      numFailedTests + (numFailedTests === 0 && !success ? Math.max(1, numFailedTestSuites) : 0);
    total.skipped += numPendingTests;
  } catch {
    total.failed++;
    console.log(`FAIL  vitest left no result for ${projects.join(', ')}`);
  }
}

/** Browser tests that begin when the other tests are over: the shorter part of them. */
const LATER = [
  ...['screens.spec.ts', 'kit.spec.ts', 'forms.spec.ts'],
  ...['shelf.spec.ts', 'strings.spec.ts', 'plan-and-recipes.spec.ts'],
];

/** Files of the two groups; a new one is in the first without being named. */
function browserGroups() {
  const files = readdirSync(join(ROOT, 'e2e')).filter((name) => name.endsWith('.spec.ts'));
  const first = files.filter((name) => !LATER.includes(name));
  return [first, LATER].map((group) => group.map((name) => `e2e/${name}`));
}

/** One worker of the browser tests: an app and a bench on a database of its own. */
async function browserWorker(files, url, at) {
  const file = join(home, `playwright-${at}.json`);
  const env = {
    DUSK_DATABASE_URL: url,
    DUSK_SESSION_SECRET: keptSecret(join(home, `secret-${at}`)),
    DUSK_DEMO: '1',
    DUSK_KIT: '1',
    DUSK_COMPRESS: '0',
  };
  const app = await startApp({ port: await freePort(), env, quiet: true });
  apps.push(app);
  const bench = await startBench({
    env,
    home: join(home, `bench-${at}`),
    address: app.address,
    quiet: true,
  });
  benches.push(bench);
  await run(bin('playwright'), ['test', ...files], {
    env: {
      ...process.env,
      DUSK_ADDRESS: app.address,
      DUSK_KIT: '1',
      DUSK_PLAYWRIGHT_JSON: file,
      DUSK_PLAYWRIGHT_OUTPUT: join(home, `playwright-${at}`),
    },
  }).catch(() => undefined);
  const { stats } = JSON.parse(readFileSync(file, 'utf8'));
  total.passed += stats.expected;
  total.failed += stats.unexpected + stats.flaky;
  total.skipped += stats.skipped;
  if (stats.unexpected > 0) console.log(`The app said:\n${app.child.output()}`);
}

/** The build, and a database with the demo beside two copies of it. @returns their addresses. */
async function prepareBrowser() {
  await check('build', process.execPath, [join(ROOT, 'scripts/build.mjs')]);
  database = await startDatabase(home, { forTests: true });
  const urls = [database.url(), database.url('dusk_tally_2'), database.url('dusk_tally_3')];
  await ensureBuild();
  await runTypeScript('scripts/load-demo.ts', { DUSK_DATABASE_URL: urls[0] });
  for (const url of urls.slice(1)) await copyDatabase(urls[0], url);
  return urls;
}

/** What fails as a whole counts as one failure, unless we are being stopped. */
async function orFailed(name, work) {
  try {
    return await work;
  } catch (error) {
    if (isStopping()) return null;
    total.failed++;
    console.log(`FAIL  ${name}: ${error.message}`);
    return null;
  }
}

const started = Date.now();
await ensureDebianPackages(['mariadb-server']);
await ensureBrowser();
await ensureNodeModules();
// Two at a time: the machine has two cores.
await Promise.all([
  check('types', bin('tsc'), ['-p', 'tsconfig.json', '--noEmit']).then(() =>
    check('lint', bin('eslint'), ['--max-warnings', '0', '.']),
  ),
  check('format', bin('prettier'), ['--check', '.'])
    .then(() =>
      check('rooms', bin('depcruise'), [
        '--config',
        '.dependency-cruiser.cjs',
        'core',
        'store',
        'lab',
        'bench',
        'web',
      ]),
    )
    .then(audit),
]);
// Two cores: most browser tests beside the others, the rest of them when those are over. The long
// story, of which most is waiting, is told beside both.
const groups = browserGroups();
const prepared = orFailed('what the browser tests need', prepareBrowser());
const browser = async (at) => {
  const urls = await prepared;
  if (urls) await orFailed('browser tests', browserWorker(groups[at], urls[at], at));
};
await Promise.all([
  browser(0),
  vitest(['core', 'bench', 'web', 'lab']).then(() => browser(1)),
  prepared
    .then((urls) => urls && vitest(['story'], { DUSK_STORY_DATABASE: urls[2] }))
    // The build has made the types of its routes; nothing waits for this check.
    .then(() =>
      check('types of the web room', bin('tsc'), ['-p', 'web/tsconfig.json', '--noEmit']),
    ),
]);
await cleanUp();
console.log(`Took ${((Date.now() - started) / 60000).toFixed(1)} minutes.`);
process.exitCode = total.failed > 0 ? 1 : 0;
console.log(`${total.passed} passed, ${total.failed} failed, ${total.skipped} skipped`);
