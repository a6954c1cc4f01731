import { decodeThinned, stringFromBlocks, thinnedString } from '@dusk-tally/core/evidence';
import { describe, expect, it } from 'vitest';
import { importString, stringPage, stringView } from '../src/evidence';
import { fresh, useClaimsLab } from '../testing/claims-lab';
import { claimedLot } from '../testing/fresh-lab';

useClaimsLab();

describe('a long log of a string', () => {
  it('is drawn whole from its overview, and to the row from its blocks', async () => {
    const lot = await claimedLot(fresh, 2);
    const rows = 400_000;
    const lines = ['time_s,pack_A,cell1_V,cell2_V'];
    for (let i = 0; i < rows; i++)
      lines.push(
        `${i},10,${(3.3 + (i % 1000) / 1e4).toFixed(3)},${(3.302 + (i % 997) / 1e4).toFixed(3)}`,
      );
    const { id } = await importString(fresh.lab, fresh.admin, {
      lotId: lot.id,
      name: 'a long one',
      fileName: 'long.csv',
      bytes: new TextEncoder().encode(lines.join('\n')),
    });
    const page = await stringPage(fresh.lab, fresh.admin, { stringId: id });
    expect(page.rows).toBe(rows);
    const view = async (fromS: number, toS: number, points: number) =>
      decodeThinned(await stringView(fresh.lab, fresh.admin, { stringId: id, fromS, toS, points }));
    expect((await view(0, page.durationS, 600)).points).toBe(2048);
    const half = await view(100_000, 350_000, 600);
    expect(half.fromS).toBeLessThanOrEqual(100_000);
    expect(half.fromS + half.points * half.widthS).toBeGreaterThanOrEqual(350_000 - 1e-6);
    const close = await view(250_000, 250_010, 10);
    const blocks = await fresh.lab.store.strings.blocks.find({ stringLogId: id });
    const string = stringFromBlocks(
      blocks.map((row) => ({
        column: row.columnName as 'timeS',
        index: row.blockIndex,
        payload: new Uint8Array(row.payload),
      })),
    );
    expect(close).toEqual(thinnedString(string, { fromS: 250_000, toS: 250_010, points: 10 }));
    expect(close.lowV[0]![3]!.toFixed(3)).toBe((3.3 + (250_003 % 1000) / 1e4).toFixed(3));
  });
});
