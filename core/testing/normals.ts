import { seededRandom } from '@dusk-tally/core/statistics';

/** Standard normal draws from a seed. */
export const normals = (seed: number) => seededRandom(seed).normal;
