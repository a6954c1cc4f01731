import { existsSync, readFileSync } from 'node:fs';
import type { Assignment } from '@dusk-tally/core/bench';
import { Agent, AppClient } from './agent';
import { tell } from './simulated';

/** Starts the agent with its settings from the environment. */
const {
  DUSK_APP = 'http://127.0.0.1:4180',
  DUSK_TOKEN = '',
  DUSK_TOKEN_FILE = '',
  DUSK_AGENT = 'bench',
  DUSK_AGENT_FOLDER = '',
  DUSK_BENCH_SPEED = '1',
  DUSK_BENCH_CONTROL = '',
} = process.env;
const problems: string[] = [];
const token =
  DUSK_TOKEN || (existsSync(DUSK_TOKEN_FILE) ? readFileSync(DUSK_TOKEN_FILE, 'utf8').trim() : '');
if (!token)
  problems.push(
    'DUSK_TOKEN or DUSK_TOKEN_FILE: expected a token with the scope bench, made under Lab, Tokens.',
  );
if (!DUSK_AGENT_FOLDER)
  problems.push('DUSK_AGENT_FOLDER: expected a folder for the journal, on a disk that stays.');
const speed = Number(DUSK_BENCH_SPEED);
if (!(speed >= 0.1 && speed <= 2000))
  problems.push('DUSK_BENCH_SPEED: expected 1 for a real bench, up to 2000 for a simulated one.');
if (problems.length > 0) {
  console.error(
    `The agent does not start:\n${problems.map((problem) => `- ${problem}`).join('\n')}`,
  );
  process.exit(1);
}
/** On a bench whose cells are simulated nobody connects them: its control socket is told which. */
const putIn = DUSK_BENCH_CONTROL
  ? ({ cell, channel, expected }: Assignment) =>
      tell(DUSK_BENCH_CONTROL, {
        do: 'insert',
        at: channel.wiring.load ?? channel.wiring.supply ?? '',
        cell: { number: cell, ...expected },
      })
  : undefined;
const agent = new Agent({
  name: DUSK_AGENT,
  app: new AppClient(DUSK_APP, token),
  folder: DUSK_AGENT_FOLDER,
  speed,
  beforeRun: putIn,
  log: (line) => console.error(`${new Date().toISOString()} ${line}`),
});
/** Longest an agent that failed takes to switch off and say so, ms. */
const LAST_WORDS_MS = 15_000;
let isFailing = false;
for (const event of ['uncaughtException', 'unhandledRejection'] as const)
  process.on(event, (error: unknown) => {
    console.error(`${new Date().toISOString()} ${(error as Error)?.stack ?? String(error)}`);
    if (isFailing) return;
    isFailing = true;
    setTimeout(() => process.exit(1), LAST_WORDS_MS).unref();
    void agent
      .failed(error instanceof Error ? error : new Error(String(error)))
      .finally(() => process.exit(1));
  });
agent.start();
for (const signal of ['SIGINT', 'SIGTERM'] as const)
  process.once(signal, () => void agent.stop().then(() => process.exit(0)));
