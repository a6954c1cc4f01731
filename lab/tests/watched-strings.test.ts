import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { decodeThinned, watchString } from '@dusk-tally/core/evidence';
import { describe, expect, it } from 'vitest';
import type { LabError } from '../src';
import { addModel, changeLotModel } from '../src/arrivals';
import {
  compareStrings,
  importString,
  lotStrings,
  stringPage,
  stringsOfCell,
  stringStretch,
  stringView,
  takeBackString,
  tieString,
} from '../src/evidence';
import { lotCells } from '../src/verdicts';
import { fresh, useClaimsLab } from '../testing/claims-lab';
import { failure } from '../testing/failure';
import { anotherProcess, claimedLot } from '../testing/fresh-lab';
import { csvOf } from '../testing/string-logs';

useClaimsLab();

const bytesOf = (csv: string) => new TextEncoder().encode(csv);

const take = (lotId: number, csv: string, name = 'first charges') =>
  importString(fresh.lab, fresh.admin, {
    lotId,
    name,
    fileName: `${name}.csv`,
    bytes: bytesOf(csv),
  });
const pageOf = (stringId: number) => stringPage(fresh.lab, fresh.admin, { stringId });

async function tied(lotId: number, stringId: number, order = [0, 1, 2, 3]) {
  const cells = await lotCells(fresh.lab, fresh.admin, { lotId });
  const { version, name } = await pageOf(stringId);
  await tieString(fresh.lab, fresh.admin, {
    stringId,
    version,
    name,
    cellIds: order.map((i) => cells[i]!.id),
  });
  return cells;
}

describe('the log of a string', () => {
  it('is stored whole, told by its columns, and found again after a restart', async () => {
    const lot = await claimedLot(fresh, 6);
    const { id } = await take(lot.id, csvOf(0.01));
    const elsewhere = anotherProcess(fresh.url);
    const page = await stringPage(elsewhere, fresh.admin, { stringId: id });
    expect(page).toMatchObject({
      lotCode: lot.code,
      decimalsV: 3,
      startedAt: new Date(1_775_200_000_000),
      chemistry: 'LFP',
    });
    expect(page.cells.map(({ header }) => header)).toEqual([
      'cell1_V',
      'cell2_V',
      'cell3_V',
      'cell4_V',
    ]);
    expect(page.watch.nearFull!.standOut[0]).toMatchObject({ cell: 2, side: 'highest' });
    expect(page.watch.fulls).toHaveLength(2);
    const view = decodeThinned(
      await stringView(elsewhere, fresh.admin, { stringId: id, fromS: 0, toS: 600, points: 30 }),
    );
    // Thirty stretches of twenty seconds: every row as it was written.
    const first = csvOf(0.01).split('\n')[1]!.split(',');
    expect(view.lowV[0]![0]!.toFixed(3)).toBe(first[2]);
    expect(view.highV[3]![0]!.toFixed(3)).toBe(first[5]);
  });

  it('from a file of any length gives the same as from memory', async () => {
    const lot = await claimedLot(fresh, 4);
    const folder = mkdtempSync(join(tmpdir(), 'dusk-string-'));
    try {
      const path = join(folder, 'log');
      writeFileSync(path, csvOf(0.01, 1, 9));
      const { id } = await importString(fresh.lab, fresh.admin, {
        lotId: lot.id,
        name: 'from a file',
        fileName: 'monitor.csv',
        path,
      });
      const again = await failure(take(lot.id, csvOf(0.01, 1, 9), 'again'));
      expect(again).toMatchObject({ code: 'duplicate', details: { link: `/strings/${id}` } });
      const { watch } = await pageOf(id);
      const rows = csvOf(0.01, 1, 9).trim().split('\n').slice(1);
      const columns = rows.map((row) => row.split(',').map(Number));
      const string = {
        timeS: Float64Array.from(columns, ([t]) => t! - columns[0]![0]!),
        cellsV: [2, 3, 4, 5].map((c) => Float64Array.from(columns, (row) => row[c]!)),
      };
      expect(watch).toEqual(JSON.parse(JSON.stringify(watchString(string, { chemistry: 'LFP' }))));
    } finally {
      rmSync(folder, { recursive: true });
    }
  });

  it('that is none is refused in words, and nothing of it is stored', async () => {
    const lot = await claimedLot(fresh, 4);
    for (const [csv, words] of [
      ['time_s,voltage_V\n0,3.3\n10,3.31\n20,3.32\n', /no column holds the voltage of a cell/],
      ['time_s,pack_A,cell1_V,cell2_V\n0,1,3.3,3.3\n', /1 whole row/],
      ['', /./],
      ['\u0000\u0001\u0002', /./],
    ] as const)
      expect(await failure(take(lot.id, csv))).toMatchObject({
        code: 'invalid',
        message: expect.stringMatching(words),
      });
    expect(await lotStrings(fresh.lab, fresh.admin, { lotId: lot.id })).toEqual([]);
  });

  it('sent twice at once is stored once', async () => {
    const lot = await claimedLot(fresh, 4);
    const csv = csvOf(0.004, 0, 3);
    const ends = await Promise.allSettled([take(lot.id, csv), take(lot.id, csv)]);
    expect(ends.map(({ status }) => status).sort()).toEqual(['fulfilled', 'rejected']);
    expect(await lotStrings(fresh.lab, fresh.admin, { lotId: lot.id })).toHaveLength(1);
  });

  it('is tied to cells of its lot, each once, and each of them shows it', async () => {
    const lot = await claimedLot(fresh, 6);
    const { id } = await take(lot.id, csvOf(0.01, 2, 21));
    const cells = await tied(lot.id, id, [5, 4, 3, 2]);
    const page = await pageOf(id);
    expect(page.cells[2]!.cell!.number).toBe(cells[3]!.number);
    const [shown] = await stringsOfCell(fresh.lab, fresh.admin, {
      lotId: lot.id,
      cellId: cells[3]!.id,
    });
    expect(shown!.standsOut[0]).toMatch(/^highest for \d+ % of the time near full/);
    const other = { lotId: lot.id, cellId: cells[0]!.id };
    expect(await stringsOfCell(fresh.lab, fresh.admin, other)).toEqual([]);
    const stranger = await claimedLot(fresh, 1);
    const [far] = await lotCells(fresh.lab, fresh.admin, { lotId: stranger.id });
    const wrong = (cellIds: (number | null)[], version = page.version) =>
      failure(tieString(fresh.lab, fresh.admin, { stringId: id, version, name: 'wrong', cellIds }));
    const [a, b] = [cells[0]!.id, cells[1]!.id];
    expect((await wrong([a, a, null, null])).message).toMatch(/stands there twice/);
    expect((await wrong([far!.id, a, b, null])).message).toMatch(/no cell of/);
    expect((await wrong([a])).message).toMatch(/Expected 4 cells.*got 1/);
    expect(await wrong([a, b, null, null], 1)).toMatchObject({ code: 'conflict' });
    expect((await pageOf(id)).cells[2]!.cell!.number).toBe(cells[3]!.number);
  });

  it('taken back is watched no longer, and can be taken in for the right lot', async () => {
    const [wrong, right] = [await claimedLot(fresh, 4), await claimedLot(fresh, 4)];
    const csv = csvOf(0.01, 3, 33);
    const { id } = await take(wrong.id, csv);
    const cells = await tied(wrong.id, id);
    const { version } = await pageOf(id);
    await takeBackString(fresh.lab, fresh.admin, {
      stringId: id,
      version,
      reason: 'of another lot',
    });
    const cell = { lotId: wrong.id, cellId: cells[3]!.id };
    expect(await stringsOfCell(fresh.lab, fresh.admin, cell)).toEqual([]);
    expect((await pageOf(id)).takenBack).toMatchObject({ why: 'of another lot' });
    expect(await failure(tied(wrong.id, id))).toMatchObject({ code: 'conflict' });
    const { id: second } = await take(right.id, csv);
    expect(second).not.toBe(id);
  });
});

describe('stretches and periods', () => {
  it('a stretch is watched and drawn by its rows alone', async () => {
    const lot = await claimedLot(fresh, 4);
    const { id } = await take(lot.id, csvOf(0.01, 1, 41));
    const { watch, durationS } = await pageOf(id);
    const [first] = watch.fulls;
    const stretch = { stringId: id, fromS: first!.peakS - 1200, toS: first!.peakS };
    const part = await stringStretch(fresh.lab, fresh.admin, stretch);
    expect(part.seconds).toBeLessThanOrEqual(1220);
    expect(part.nearFull!.standOut[0]).toMatchObject({ cell: 1 });
    const whole = await stringStretch(fresh.lab, fresh.admin, {
      stringId: id,
      fromS: 0,
      toS: durationS,
    });
    expect(whole).toEqual(watch);
    const beyond = { stringId: id, fromS: durationS + 10, toS: durationS + 20 };
    expect((await failure(stringStretch(fresh.lab, fresh.admin, beyond))).message).toMatch(
      /holds no readings between these times/,
    );
    const turned = { stringId: id, fromS: 20, toS: 10 };
    expect((await failure(stringStretch(fresh.lab, fresh.admin, turned))).message).toMatch(
      /Expected an end after its beginning/,
    );
  });

  it('before and after are put side by side, cell by cell, however the columns stood', async () => {
    const lot = await claimedLot(fresh, 4);
    const { id: before } = await take(lot.id, csvOf(0.01, 2, 51), 'before');
    const { id: after } = await take(lot.id, csvOf(0, 2, 52), 'after');
    const { id: turned } = await take(lot.id, csvOf(0.01, 1, 53), 'turned');
    await tied(lot.id, before);
    await tied(lot.id, after);
    // The same cell stands in another column of this log.
    await tied(lot.id, turned, [3, 2, 1, 0]);
    const stretch = async (stringId: number) => ({
      stringId,
      fromS: 0,
      toS: (await pageOf(stringId)).durationS,
    });
    const compare = async (a: number, b: number) =>
      compareStrings(fresh.lab, fresh.admin, { before: await stretch(a), after: await stretch(b) });
    const { change } = await compare(before, after);
    expect(change.leads.find(({ cell }) => cell === 2)).toMatchObject({
      side: 'highest',
      change: 'no longer stands out',
    });
    expect((await compare(before, turned)).change.leads.find(({ cell }) => cell === 2)).toEqual(
      expect.objectContaining({ side: 'highest', change: 'still stands out' }),
    );
    const other = await claimedLot(fresh, 4);
    const { id: strange } = await take(other.id, csvOf(0.01, 0, 54), 'elsewhere');
    expect((await failure(compare(before, strange))).message).toMatch(/not of the same string/);
  });

  it('goes by the class the model has today, wherever it is told', async () => {
    const lot = await claimedLot(fresh, 4);
    const { id } = await take(lot.id, csvOf(0.01, 2, 61));
    expect((await pageOf(id)).watch.aboveV).toBe(3.4);
    const { id: modelId } = await addModel(fresh.lab, fresh.admin, {
      name: 'Of another class',
      chemistry: 'LTO',
      format: 'prism',
      widthMm: 130,
      thicknessMm: 36,
      heightMm: 195,
    });
    const change = { lotId: lot.id, modelId, reason: 'the label says so' };
    const lotRow = (await fresh.lab.store.lots.one({ id: lot.id }))!;
    const refused = (await failure(
      changeLotModel(fresh.lab, fresh.admin, {
        ...change,
        version: lotRow.version,
        accepted: ['?'],
      }),
    )) as LabError;
    const { consequences } = refused.details.current as { consequences: string[] };
    await changeLotModel(fresh.lab, fresh.admin, {
      ...change,
      version: lotRow.version,
      accepted: consequences,
    });
    const { watch } = await pageOf(id);
    expect(watch.aboveV).toBe(2.6);
    expect(watch.nearFull!.seconds).toBeGreaterThan(0.95 * watch.seconds);
    expect(await fresh.lab.store.strings.logs.one({ id })).toMatchObject({
      chemistry: 'LTO',
      watch,
    });
    const named = watch.nearFull!.standOut.map(({ cell }) => `cell${cell + 1}_V`);
    const [listed] = await lotStrings(fresh.lab, fresh.admin, { lotId: lot.id });
    expect(listed!.standOut).toEqual([...new Set(named)]);
  });
});
