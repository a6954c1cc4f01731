import { existsSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { type BenchSnapshot, ControlServer, SimulatedBench } from './simulated';

/** Time between keeping how the bench is, ms. */
const KEEP_EVERY_MS = 5000;

/**
 * Starts a simulated bench with its settings from the environment; its addresses, and that of its
 * control socket, go into a file.
 * With a file for its state it goes on where it was left, as instruments do that nobody switched off.
 */
const {
  DUSK_BENCH_PLACES = '12',
  DUSK_BENCH_SPEED = '60',
  DUSK_BENCH_SEED = '7',
  DUSK_BENCH_PORT = '0',
  DUSK_BENCH_HEATERS = '',
  DUSK_BENCH_WIRINGS = '',
  DUSK_BENCH_STATE = '',
} = process.env;
const description = {
  seed: Number(DUSK_BENCH_SEED),
  speed: Number(DUSK_BENCH_SPEED),
  port: Number(DUSK_BENCH_PORT),
  heaters: DUSK_BENCH_HEATERS.split(',').filter(Boolean),
  places: Array.from({ length: Number(DUSK_BENCH_PLACES) }, (_, i) => ({
    chemistry: 'LFP' as const,
    ratedAh: 6,
    stateOfCharge: 0.33,
    // One channel reads high, as one of every bench does; one drifts.
    faults: i === 4 ? { currentGainPct: 1.2 } : i === 9 ? { driftPctPerDay: 0.3 } : {},
  })),
};

/** How the bench was left; null where it was not, or what is kept cannot be read. */
function leftBench(): BenchSnapshot | null {
  if (!DUSK_BENCH_STATE || !existsSync(DUSK_BENCH_STATE)) return null;
  try {
    const left = JSON.parse(readFileSync(DUSK_BENCH_STATE, 'utf8')) as BenchSnapshot;
    return left.places.length === description.places.length ? left : null;
  } catch {
    return null;
  }
}

/** Opened where it was; at other ports where another program took one of them meanwhile. */
async function opened() {
  const left = leftBench();
  const bench = new SimulatedBench(description, left);
  try {
    return { bench, wirings: await bench.open() };
  } catch (error) {
    if (!left || (error as NodeJS.ErrnoException).code !== 'EADDRINUSE') throw error;
    await bench.close().catch(() => undefined);
    const elsewhere = new SimulatedBench(description, { ...left, ports: [] });
    return { bench: elsewhere, wirings: await elsewhere.open() };
  }
}

const { bench, wirings } = await opened();
const keep = () => {
  if (!DUSK_BENCH_STATE) return;
  writeFileSync(`${DUSK_BENCH_STATE}.new`, JSON.stringify(bench.snapshot()));
  renameSync(`${DUSK_BENCH_STATE}.new`, DUSK_BENCH_STATE);
};
keep();
if (DUSK_BENCH_STATE) setInterval(keep, KEEP_EVERY_MS).unref();
const control = new ControlServer(bench);
const controlAt = await control.listen();
if (DUSK_BENCH_WIRINGS)
  writeFileSync(DUSK_BENCH_WIRINGS, JSON.stringify({ wirings, control: controlAt }));
console.log(
  `Simulated bench: ${wirings.length} places from ${wirings[0]!.load} on, ${DUSK_BENCH_SPEED} times as fast as real.`,
);
for (const signal of ['SIGINT', 'SIGTERM'] as const)
  process.once(signal, () => {
    keep();
    void Promise.all([bench.close(), control.close()]).then(() => process.exit(0));
  });
