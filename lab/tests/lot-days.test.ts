import { afterAll, beforeAll, expect, it } from 'vitest';
import { importLog } from '../src/evidence';
import { lotCells, lotDays, lotSpread, setAside } from '../src/verdicts';
import { claimedLot, type FreshLab, freshLab } from '../testing/fresh-lab';
import { logOf } from '../testing/holds-lab';

let fresh: FreshLab;
let now = new Date('2026-03-02T09:00:00Z');
beforeAll(async () => {
  fresh = await freshLab(() => now);
});
afterAll(() => fresh.close());

it('how a verdict grew is told day by day, and a day without news adds no line', async () => {
  const lot = await claimedLot(fresh, 8);
  const ids = (await lotCells(fresh.lab, fresh.admin, { lotId: lot.id })).map(({ id }) => id);
  const take = (cell: number, ah: number) =>
    importLog(fresh.lab, fresh.admin, {
      lotId: lot.id,
      cellId: ids[cell]!,
      fileName: `day-${cell}.csv`,
      bytes: logOf(ah, 300 + cell),
    });
  const days = () => lotDays(fresh.lab, fresh.admin, { lotId: lot.id });
  expect(await days()).toMatchObject([{ day: '2026-03-02', open: 8, met: 0 }]);
  await take(0, 107);
  await take(1, 97);
  now = new Date('2026-03-03T09:00:00Z');
  await take(2, 108);
  const { runId } = await take(3, 96);
  now = new Date('2026-03-05T09:00:00Z');
  await setAside(fresh.lab, fresh.admin, { runId, readingId: null, reason: 'a spoilt test' });
  now = new Date('2026-03-09T09:00:00Z');
  expect(
    (await days()).map(({ day, met, notMet, held, open }) => [day, met, notMet, held, open]),
  ).toEqual([
    ['2026-03-02', 1, 1, 0, 6],
    ['2026-03-03', 2, 2, 0, 4],
    ['2026-03-05', 2, 1, 1, 4],
  ]);
  // One other lot is not told of.
  const other = await claimedLot(fresh, 2);
  expect(await lotDays(fresh.lab, fresh.admin, { lotId: other.id })).toHaveLength(1);
  const spread = await lotSpread(fresh.lab, fresh.admin, { lotId: lot.id });
  expect(spread).toMatchObject({ humps: null, parting: null, outliers: [] });
  expect(spread.scores).toHaveLength(3);
});
