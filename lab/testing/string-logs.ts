import {
  recordString,
  stringAsCsv,
  type StringPlan,
  typicalCell,
} from '@dusk-tally/core/simulator';

const PLAN: StringPlan = {
  currentA: 30,
  highestV: 3.6,
  lowestV: 2.9,
  restS: 1200,
  cycles: 2,
  intervalS: 20,
  ambientC: 23,
  bleed: null,
  noiseV: 0.0004,
  wanderV: 0.002,
  seed: 7,
};

/**
 * A monitor’s log of four cells over two cycles, one of them so much fuller than the others.
 * @param ahead share of its capacity. @param at which of them, from 0.
 */
export const csvOf = (ahead: number, at = 2, seed = 7) =>
  stringAsCsv(
    recordString(
      Array.from({ length: 4 }, (_, c) => ({
        cell: typicalCell('LFP', 104),
        from: 0.3 + (c === at ? ahead : 0),
      })),
      { ...PLAN, seed },
    ),
    1_775_200_000,
  );
