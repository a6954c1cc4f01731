import { afterAll, beforeAll } from 'vitest';
import { listRecipes } from '../src/bench';
import { type BenchLab, benchLab, NOW } from './bench-lab';

export let { fresh, lotId, cells, channels, technician } = {} as BenchLab;
export let clock = NOW;
export const lab = () => fresh.lab;
export const recipe = async (name: string) =>
  (await listRecipes(lab(), fresh.admin, {})).find((one) => one.name === name)!;

/** Lets time pass, or go back. */
export const setClock = (at: Date): void => void (clock = at);

/** A lab with a bench and a clock that is moved, for the tests of one file; call it at the top of the file. */
export function usePlanningLab(): void {
  beforeAll(async () => {
    clock = NOW;
    ({ fresh, lotId, cells, channels, technician } = await benchLab(() => clock));
  });
  afterAll(() => fresh.close());
}
