import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { labelCell } from '../src/arrivals';
import { cellsOfCode, searchEverything } from '../src/today';
import { lotCells } from '../src/verdicts';
import { claimedLot, type FreshLab, freshLab } from '../testing/fresh-lab';

const SLEEVE = '0FZCB31K204170E3D0000101';

describe('what a scan and a search find', () => {
  let fresh: FreshLab;
  let numbers: string[];
  beforeAll(async () => {
    fresh = await freshLab();
    const { lab, admin } = fresh;
    numbers = [];
    for (const [at, labels] of [[SLEEVE, 'ZX-17%', null], [SLEEVE]].entries()) {
      const lot = await claimedLot(fresh, at === 0 ? 3 : 12);
      const cells = await lotCells(lab, admin, { lotId: lot.id });
      for (const [i, label] of labels.entries())
        if (label !== null) {
          const { id, version } = (await lab.store.cells.one({ id: cells[i]!.id }))!;
          await labelCell(lab, admin, { cellId: id, version, label });
        }
      numbers.push(...cells.map(({ number }) => number));
    }
  });
  afterAll(() => fresh.close());

  const scanned = async (code: string) =>
    (await cellsOfCode(fresh.lab, fresh.admin, { code })).map(({ number }) => number);

  it('a number finds its cell alone, not those that begin like it', async () => {
    expect(await scanned(numbers[0]!)).toEqual([numbers[0]]);
    const text = numbers[0]!.slice(0, -1);
    expect(await scanned(text)).toEqual([]);
    expect((await searchEverything(fresh.lab, fresh.admin, { text })).length).toBeGreaterThan(1);
  });

  it('as a scanner sends it: blanks around it and small letters are no other code', async () => {
    expect(await scanned(` ${numbers[4]!.toLowerCase()}\r`)).toEqual([numbers[4]]);
    expect(await scanned('zx-17%')).toEqual([numbers[1]]);
  });

  it('a label that was copied finds every cell it stands on, and their lots', async () => {
    const found = await cellsOfCode(fresh.lab, fresh.admin, { code: SLEEVE });
    expect(found.map(({ number }) => number)).toEqual([numbers[0], numbers[3]]);
    expect(new Set(found.map(({ lot }) => lot)).size).toBe(2);
  });

  it.each(['', '   ', '%', '_', `${SLEEVE}9`, 'Z'.repeat(200)])(
    'nothing carries %j',
    async (code) => {
      expect(await scanned(code)).toEqual([]);
    },
  );
});
