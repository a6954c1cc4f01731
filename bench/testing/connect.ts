import type { Assignment } from '@dusk-tally/core/bench';
import type { SimulatedBench } from '../src/simulated';

/** Connects the cell of each run before it begins, as a person does. */
export const connectTo =
  (bench: () => SimulatedBench) =>
  ({ cell, channel, expected }: Assignment): Promise<void> => {
    const at = bench().placeAt(channel.wiring.load ?? channel.wiring.supply ?? '');
    bench().insert(at, { number: cell, ...expected });
    return Promise.resolve();
  };
