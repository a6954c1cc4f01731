import { readFileSync } from 'node:fs';
import type { RunRecord } from '@dusk-tally/core/bench';
import { parseDatabaseUrl, Store } from '@dusk-tally/store';

/** Compares what a journal held with what the database has, record by record. */
const store = new Store(parseDatabaseUrl(process.env.DUSK_DATABASE_URL!));
const seen = JSON.parse(readFileSync(process.env.DUSK_SEEN!, 'utf8')) as RunRecord[];
const rows = await store.bench.records.find({});
const runs = await store.bench.runs.find({});
const byKey = new Map(rows.map((row) => [`${row.benchRunId}/${row.seq}`, row]));
const doubled = rows.length - byKey.size;
let [lost, changed] = [0, 0];
for (const record of seen) {
  const row = byKey.get(`${record.run}/${record.seq}`);
  if (!row) lost++;
  else if (
    record.kind === 'reading'
      ? row.voltageV !== record.voltageV || row.timeS !== record.timeS
      : row.event?.event !== record.event.event
  )
    changed++;
}
let gaps = 0;
const most = new Map<number, number>();
for (const { benchRunId, seq } of rows)
  most.set(benchRunId, Math.max(most.get(benchRunId) ?? 0, seq));
for (const [run, last] of most)
  gaps += last - rows.filter(({ benchRunId }) => benchRunId === run).length;
const states = new Map<string, number>();
for (const { state, endReason } of runs) {
  const words =
    state === 'running' || state === 'ready'
      ? 'goes on'
      : (endReason ?? 'ended').replace(/127\.0\.0\.1:\d+/, 'an instrument');
  states.set(words, (states.get(words) ?? 0) + 1);
}
console.log(
  `${seen.length} records on the journal, ${rows.length} in the database: ${lost} lost, ${doubled} doubled, ${changed} changed, ${gaps} gaps. Runs: ${[...states].map(([words, n]) => `${n} × ${words}`).join('; ')}`,
);
await store.close();
if (lost + doubled + changed + gaps > 0) process.exitCode = 1;
