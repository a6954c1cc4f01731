import { afterAll, beforeAll } from 'vitest';
import { lotHead } from '../src/verdicts';
import { type FreshLab, freshLab } from './fresh-lab';

export let fresh: FreshLab;
export const head = (code: string) => lotHead(fresh.lab, fresh.admin, { code });

/** A lab of its own for the tests of one file; call it at the top of the file. */
export function useClaimsLab(): void {
  beforeAll(async () => {
    fresh = await freshLab();
  });
  afterAll(() => fresh.close());
}
