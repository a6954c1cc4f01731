import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import { openComputePool, TASK_LIMITS } from '../src/compute/compute-pool';
import { failure } from '../testing/failure';

const folder = mkdtempSync(join(tmpdir(), 'dusk-limits-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

describe('every task of a worker has a limit', () => {
  it('one that never ends is given up in words, and its worker replaced', async () => {
    const file = join(folder, 'worker.mjs');
    writeFileSync(
      file,
      'export const viewTrace = () => { for (;;); };\nexport const windowOfRun = () => 7;\n',
    );
    const pool = openComputePool(file, { ...TASK_LIMITS, viewTrace: 300 });
    try {
      const stuck = [1, 2, 3].map(() => failure(pool.viewTrace({} as never)));
      for (const error of await Promise.all(stuck))
        expect(error).toMatchObject({
          code: 'invalid',
          message: expect.stringMatching(
            /^Drawing this run took longer than .* Nothing was stored/,
          ),
        });
      expect(await pool.windowOfRun({} as never)).toBe(7);
    } finally {
      await pool.close();
    }
  });
});
