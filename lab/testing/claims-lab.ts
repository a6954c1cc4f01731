import { afterAll, beforeAll } from 'vitest';
import { lotHead } from '../src/verdicts';
import { type FreshLab, freshLab } from './fresh-lab';

export let fresh: FreshLab;
beforeAll(async () => {
  fresh = await freshLab();
});
afterAll(() => fresh.close());
export const head = (code: string) => lotHead(fresh.lab, fresh.admin, { code });
