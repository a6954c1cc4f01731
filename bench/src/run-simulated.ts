import { writeFileSync } from 'node:fs';
import { SimulatedBench } from './simulated';

/** Starts a simulated bench with its settings from the environment; its addresses go into a file. */
const {
  DUSK_BENCH_PLACES = '12',
  DUSK_BENCH_SPEED = '60',
  DUSK_BENCH_SEED = '7',
  DUSK_BENCH_PORT = '0',
  DUSK_BENCH_HEATERS = '',
  DUSK_BENCH_WIRINGS = '',
} = process.env;
const bench = new SimulatedBench({
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
});
const wirings = await bench.open();
if (DUSK_BENCH_WIRINGS) writeFileSync(DUSK_BENCH_WIRINGS, JSON.stringify(wirings));
console.log(
  `Simulated bench: ${wirings.length} places from ${wirings[0]!.load} on, ${DUSK_BENCH_SPEED} times as fast as real.`,
);
for (const signal of ['SIGINT', 'SIGTERM'] as const)
  process.once(signal, () => void bench.close().then(() => process.exit(0)));
