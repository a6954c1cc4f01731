import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { runTypeScript } from '../lib/app.mjs';
import { AGENT_FILE } from '../lib/paths.mjs';

/** Keeps every record that was ever whole in an agent's journal; the journal is written anew now and then. */
export function journalSeen(stage) {
  const journal = join(stage.home, 'bench', 'agent', 'journal.log');
  const seen = new Map();
  return {
    read() {
      if (!existsSync(journal)) return;
      for (const line of readFileSync(journal, 'utf8').split('\n')) {
        if (line[8] !== ' ') continue;
        try {
          const entry = JSON.parse(line.slice(9));
          const records =
            entry.t === 'record' ? [entry.record] : entry.t === 'snapshot' ? entry.unsent : [];
          for (const record of records) seen.set(`${record.run}/${record.seq}`, record);
        } catch {
          // The last line, cut short: it never counted.
        }
      }
    },
    /** Compares what was seen with what the database has. @returns the outcome in words. */
    compare() {
      const file = join(stage.home, 'seen.json');
      writeFileSync(file, JSON.stringify([...seen.values()]));
      return runTypeScript('scripts/bench/compare-records.ts', {
        ...stage.env,
        DUSK_SEEN: file,
        DUSK_STDOUT: '1',
      }).catch((error) => error.message);
    },
  };
}

/** How the agent of a stage is started again. */
export const agentOf = (stage, speed) => ({
  file: AGENT_FILE,
  env: {
    ...process.env,
    DUSK_APP: stage.app.address,
    DUSK_TOKEN_FILE: join(stage.home, 'bench', 'agent-token'),
    DUSK_AGENT_FOLDER: join(stage.home, 'bench', 'agent'),
    DUSK_BENCH_SPEED: String(speed),
  },
});
