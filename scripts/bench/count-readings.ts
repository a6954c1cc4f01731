import { parseDatabaseUrl, Store } from '@dusk-tally/store';

/** How many readings of each run there are, and whether any number is missing. */
const store = new Store(parseDatabaseUrl(process.env.DUSK_DATABASE_URL!));
const rows = await store.bench.records.find(
  {},
  {
    columns: ['benchRunId', 'seq', 'timeS'],
    order: [
      ['benchRunId', 'ASC'],
      ['seq', 'ASC'],
    ],
  },
);
const runs = new Map<number, typeof rows>();
for (const row of rows) runs.set(row.benchRunId, [...(runs.get(row.benchRunId) ?? []), row]);
let [missing, longest] = [0, 0];
for (const list of runs.values()) {
  missing += list[list.length - 1]!.seq - list.length;
  list.forEach(({ timeS }, i) => {
    if (i > 0) longest = Math.max(longest, timeS - list[i - 1]!.timeS);
  });
}
console.log(
  `${rows.length} records of ${runs.size} runs, ${(rows.length / runs.size / Number(process.env.DUSK_SECONDS)).toFixed(3)} a second each; ${missing} numbers missing; longest time between two readings ${longest.toFixed(2)} s.`,
);
await store.close();
