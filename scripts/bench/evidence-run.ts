import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { monitorEventLoopDelay } from 'node:perf_hooks';
import {
  buildPyramid,
  encodeTrace,
  figuresOfLog,
  memorySource,
  pyramidOfBlocks,
  readLog,
  type ReadLog,
  readLongLog,
  sectionsInWhole,
} from '@dusk-tally/core/evidence';
import { seededRandom } from '@dusk-tally/core/statistics';
import type { Actor, Lab } from '@dusk-tally/lab';
import { addLot, changeClaim } from '@dusk-tally/lab/arrivals';
import { importLog, traceOfRun } from '@dusk-tally/lab/evidence';
import { lotCells } from '@dusk-tally/lab/verdicts';
import { inferSchema, initParser } from 'udsv';
import { computeLog } from '../../lab/src/compute/compute-log';
import { signIn } from './sign-in';
import { syntheticLog } from './synthetic-log';
import { median, spread, timed } from './timing';
import { withLab } from './with-lab';

const ROWS = 1_000_000;

const TASK = {
  path: null,
  cutoffV: 2.5,
  ratedAh: 104,
  accuracy: null,
  leadMohm: null,
  leadUncertaintyMohm: null,
  voltageTable: [],
};

function whole(bytes: Uint8Array): { log: ReadLog; bytes: number } {
  const log = readLog(bytes);
  const { discharge } = figuresOfLog(log, { cutoffsV: [2.5], accuracy: null, ratedAh: 104 });
  const parts = [...encodeTrace(log.trace), ...buildPyramid(log.trace, discharge)];
  return { log, bytes: parts.reduce((sum, part) => sum + part.payload.length, 0) };
}

/** Median of the ratios of pairs measured one after the other, and how they spread. */
function pairRatio(ours: number[], theirs: number[]): string {
  const ratios = ours.map((took, i) => took / theirs[i]!).sort((a, b) => a - b);
  return `${median(ratios).toFixed(2)} (${ratios[0]!.toFixed(2)} to ${ratios.at(-1)!.toFixed(2)})`;
}

/** A million rows: everything in memory against a general parser that only parses. */
async function againstParser(lab: Lab, actor: Actor): Promise<void> {
  const bytes = syntheticLog(ROWS, 1);
  const parse = () => {
    const text = new TextDecoder().decode(bytes);
    return initParser(inferSchema(text)).typedCols(text);
  };
  const task = { ...TASK, bytes };
  const compute = () => computeLog(task);
  await timed(2, parse);
  await timed(2, compute);
  const [parsed, read]: number[][] = [[], []];
  for (let i = 0; i < 15; i++) {
    parsed!.push(...(await timed(1, parse)));
    read!.push(...(await timed(1, compute)));
  }
  console.log(
    `1 000 000 rows × 4 columns, recognised, parsed, checked, figures, compressed, pyramid, shape and curve: ${spread(read!)}; udsv only parsing to typed columns: ${spread(parsed!)}; ratio ${pairRatio(read!, parsed!)}`,
  );
  console.log(`Stored: ${(whole(bytes).bytes / ROWS).toFixed(3)} bytes a row of four columns`);
  const { lotId, cells } = await benchLot(lab, actor, 20);
  const [stored, beside]: [number[], number[]] = [[], []];
  // The first two warm the worker up, as those above warmed up this process.
  for (let i = 0; i < 17; i++) {
    const own = syntheticLog(ROWS, 100 + i);
    const file = { lotId, cellId: cells[i]!, fileName: `million-${i}.csv`, bytes: own };
    const [took] = await timed(1, () => importLog(lab, actor, file));
    if (i < 2) continue;
    stored.push(took!);
    beside.push(...(await timed(1, parse)));
  }
  console.log(
    `The same in a worker and written to MariaDB: ${spread(stored)}; udsv beside it: ${spread(beside)}; ratio ${pairRatio(stored, beside)}`,
  );
}

/** The same for a log of any length. */
function inPieces(bytes: Uint8Array): void {
  const { log, blocks, rowOf } = readLongLog(memorySource(bytes), { cutoffsV: [2.5] });
  const { sections } = figuresOfLog(log, { cutoffsV: [2.5], accuracy: null, ratedAh: 104 });
  pyramidOfBlocks(blocks, sectionsInWhole(sections, rowOf));
}

/** How time grows with rows. */
async function growth(): Promise<void> {
  for (const millions of [1, 2, 5, 10, 20]) {
    const bytes = syntheticLog(millions * ROWS, 7);
    const times = await timed(millions > 5 ? 2 : 3, () => inPieces(bytes));
    console.log(
      `${millions} million rows (${(bytes.length / 1e6).toFixed(0)} MB): ${spread(times)}, ${(median(times) / millions).toFixed(0)} ms a million`,
    );
  }
}

async function benchLot(lab: Lab, actor: Actor, quantity: number) {
  const model = (await lab.store.cellModels.one({ name: 'Sedge P104' }))!;
  const supplier = (await lab.store.suppliers.one({}))!;
  const lot = await addLot(lab, actor, {
    title: 'Benchmark of logs',
    supplierId: supplier.id,
    modelId: model.id,
    quantity,
    claim: [{ kind: 'capacity', value: 104, conditions: { rateIt: 0.2, cutoffV: 2.5 } }],
  });
  const cells = await lotCells(lab, actor, { lotId: lot.id });
  return { lotId: lot.id, lot, cells: cells.map((cell) => cell.id) };
}

/** A picture of any part of a trace of twenty million samples, taken in as a file. */
async function pictures(lab: Lab, actor: Actor): Promise<void> {
  const { lotId, cells } = await benchLot(lab, actor, 1);
  const folder = mkdtempSync(join(tmpdir(), 'dusk-long-'));
  const path = join(folder, 'twenty-million.csv');
  try {
    writeFileSync(path, syntheticLog(20 * ROWS, 3));
    memoryOfReading(path);
    const started = performance.now();
    const { runId } = await importLog(lab, actor, {
      lotId,
      cellId: cells[0]!,
      fileName: 'twenty-million.csv',
      path,
    });
    console.log(
      `20 million rows (${(statSync(path).size / 1e6).toFixed(0)} MB) taken in and stored: ${((performance.now() - started) / 1000).toFixed(1)} s`,
    );
    await drawn(lab, actor, runId);
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

/** What a process needs that does nothing but read a long log and compute its figures. */
function memoryOfReading(path: string): void {
  const code = [
    "process.argv.splice(1, 0, 'figures');",
    "import('./scripts/figures-command.ts').then(async () => {",
    "  const { readFileSync } = await import('node:fs');",
    "  console.error(readFileSync('/proc/self/status', 'utf8'));",
    '});',
  ].join('');
  const { stderr } = spawnSync(
    process.execPath,
    ['--import', 'tsx', '--eval', code, '--', '--cutoff', '2.5', path],
    { encoding: 'utf8', maxBuffer: 1 << 26 },
  );
  const peak = Number(/VmHWM:\s+(\d+)/.exec(stderr)?.[1] ?? NaN) / 1024;
  console.log(
    `A log of ${(statSync(path).size / 1e6).toFixed(0)} MB read by the figures command: at most ${peak.toFixed(0)} MB of memory, Node itself and all`,
  );
}

async function drawn(lab: Lab, actor: Actor, runId: number): Promise<void> {
  const length = (await lab.store.runs.one({ id: runId }))!.durationS;
  const random = seededRandom(5);
  for (const width of [1, 0.1, 0.01, 0.001, 0.0001, 0.000_01]) {
    const times = await timed(12, () => {
      const fromS = random.uniform() * length * (1 - width);
      return traceOfRun(lab, actor, { runId, fromS, toS: fromS + width * length });
    });
    console.log(
      `Picture of ${(width * 20 * ROWS).toLocaleString('en')} of 20 million samples: ${spread(times.slice(2))}`,
    );
  }
}

/** A claim’s cut-off changed for 500 runs: computed again on all cores, the app answering meanwhile. */
async function recompute(lab: Lab, actor: Actor, address: string): Promise<void> {
  const { lotId, lot, cells } = await benchLot(lab, actor, 500);
  for (const [i, cellId] of cells.entries())
    await importLog(lab, actor, {
      lotId,
      cellId,
      fileName: `run-${i}.csv`,
      bytes: syntheticLog(2000, 1000 + i),
    });
  const cookie = await signIn(address);
  // One question after the other until told to stop: how long each took, milliseconds.
  const asking = (): (() => Promise<number[]>) => {
    const answers: number[] = [];
    let going = true;
    const ask = async () => {
      const response = await fetch(`${address}/api/search?q=B-0001`, { headers: { cookie } });
      await response.text();
    };
    const done = (async () => {
      while (going) {
        answers.push(...(await timed(1, ask)));
        await new Promise((resolve) => setTimeout(resolve, 50));
      }
    })();
    return async () => {
      going = false;
      await done;
      return answers.sort((a, b) => a - b);
    };
  };
  const atRest = asking();
  await new Promise((resolve) => setTimeout(resolve, 5000));
  const quiet = await atRest();
  const meanwhile = asking();
  const loop = monitorEventLoopDelay({ resolution: 5 });
  loop.enable();
  const times = await timed(1, () =>
    changeClaim(lab, actor, {
      lotId,
      version: lot.version,
      claim: [{ kind: 'capacity', value: 104, conditions: { rateIt: 0.2, cutoffV: 2.6 } }],
    }),
  );
  loop.disable();
  const answers = await meanwhile();
  console.log(
    `500 runs of 2 000 rows computed again and judged: ${spread(times)}; meanwhile the app answered in ${spread(answers)}, at rest before in ${spread(quiet)}; the process that does it was never busy longer than ${(loop.max / 1e6 - 5).toFixed(0)} ms at a stretch`,
  );
}

await withLab(async (lab, actor) => {
  const parts = {
    parser: () => againstParser(lab, actor),
    pictures: () => pictures(lab, actor),
    recompute: () => recompute(lab, actor, process.env.DUSK_ADDRESS!),
    growth,
  };
  const asked = process.env.DUSK_BENCH_PART ?? '';
  for (const [name, part] of Object.entries(parts))
    if (asked === '' || asked === name) await part();
});
