import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { encodeTrace, readLog } from '@dusk-tally/core/evidence';
import { type Actor, closeLab, openLab } from '@dusk-tally/lab';
import { addLot } from '@dusk-tally/lab/arrivals';
import { lotCells } from '@dusk-tally/lab/verdicts';
import { signIn } from './bench/sign-in';
import { syntheticLog } from './bench/synthetic-log';
import { spread, timed } from './bench/timing';

const address = process.env.DUSK_ADDRESS!;
const samples = join(import.meta.dirname, '..', 'core', 'fixtures', 'samples');
const lab = openLab({
  databaseUrl: process.env.DUSK_DATABASE_URL!,
  workerFile: process.env.DUSK_WORKER_FILE!,
});
const person = (await lab.store.people.one({ role: 'admin' }))!;
const actor: Actor = { id: person.id, name: person.name, role: person.role };

function storedSize(): void {
  for (const name of ['01-plain-seconds.csv', '02-quantity-slash-unit.csv', '06-milli-units.tsv']) {
    const { trace } = readLog(new Uint8Array(readFileSync(join(samples, name))));
    const bytes = encodeTrace(trace).reduce((sum, block) => sum + block.payload.length, 0);
    console.log(
      `Stored size, ${name}: ${(bytes / trace.timeS.length).toFixed(2)} bytes per sample of four columns`,
    );
  }
}

async function importThroughApp(cookie: string): Promise<void> {
  const model = (await lab.store.cellModels.one({ name: 'Sedge P104' }))!;
  const supplier = (await lab.store.suppliers.one({}))!;
  const lot = await addLot(lab, actor, {
    title: 'Benchmark',
    supplierId: supplier.id,
    modelId: model.id,
    quantity: 60,
  });
  const cells = await lotCells(lab, actor, { lotId: lot.id });
  const post = async (run: number) => {
    const response = await fetch(
      `${address}/api/lots/${lot.id}/logs?cell=${cells[run]!.id}&name=bench-${run}.csv`,
      { method: 'POST', body: logs[run], headers: { cookie, origin: address } },
    );
    if (!response.ok) throw new Error(await response.text());
  };
  const logs = Array.from({ length: 50 }, (_, i) => syntheticLog(100_000, 100 + i));
  // The connection kept open while the logs were made is stale by now; one request renews it.
  await fetch(`${address}/api/health`).catch(() => null);
  console.log(
    `One log of 100 000 rows from request to stored figures: ${spread(await timed(10, post))}`,
  );
  const started = performance.now();
  await Promise.all(Array.from({ length: 40 }, (_, i) => post(10 + i)));
  console.log(`40 such logs at once: ${((performance.now() - started) / 1000).toFixed(1)} s`);
}

async function pages(cookie: string): Promise<void> {
  for (const path of [
    '/lots/L-001/cells',
    '/lots/L-001/verdict',
    '/lots/L-001/curves',
    '/',
    '/cells/B-0100',
  ]) {
    const get = async () => (await fetch(address + path, { headers: { cookie } })).text();
    await timed(5, get);
    console.log(`Page ${path}: ${spread(await timed(25, get))}`);
  }
  const curves = async () =>
    (await fetch(`${address}/api/lots/1/curves`, { headers: { cookie } })).arrayBuffer();
  await timed(3, curves);
  console.log(`All 240 curves of lot L-001: ${spread(await timed(15, curves))}`);
}

try {
  const cookie = await signIn(address);
  storedSize();
  await pages(cookie);
  await importThroughApp(cookie);
} finally {
  await closeLab(lab);
}
