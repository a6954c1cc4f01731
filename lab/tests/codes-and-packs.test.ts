import type { LotRow } from '@dusk-tally/store';
import { describe, expect, it } from 'vitest';
import type { Actor } from '../src';
import {
  acknowledge,
  addPacks,
  breakDownPack,
  codesOfLot,
  packsOfLot,
  scanCode,
  setHarvest,
} from '../src/arrivals';
import { failure } from '../testing/failure';
import { claimedLot } from '../testing/fresh-lab';
import {
  cellsOf,
  fresh,
  key,
  other,
  technician,
  volts,
  useArrivalLab,
} from '../testing/arrival-lab';

useArrivalLab();

describe('codes', () => {
  const code = (serial: number) => `0FZCB31K204170E3D${String(serial).padStart(7, '0')}`;
  const scan = (lot: LotRow, text: string, how: object = {}, who = technician) =>
    scanCode(fresh.lab, who, { lotId: lot.id, clientKey: key(), text, ...how });

  it('go to the next cell, find the cell again, and ask before a copy', async () => {
    const lot = await claimedLot(fresh, 3);
    const cells = await cellsOf(lot);
    const first = await scan(lot, ` ${code(1).toLowerCase().replace('31k', '31K ')} `);
    expect(first).toMatchObject({
      outcome: 'assigned',
      cell: { number: cells[0]!.number },
      reading: { ok: true, code: code(1), producedFrom: '2024-03-13' },
    });
    expect(await scan(lot, code(2))).toMatchObject({ cell: { number: cells[1]!.number } });
    expect(await scan(lot, code(1))).toMatchObject({
      outcome: 'again',
      cell: { number: cells[0]!.number },
    });
    expect(await scan(lot, code(1), { cellId: cells[2]!.id })).toMatchObject({ outcome: 'asks' });
    expect(await scan(lot, code(1), { cellId: cells[2]!.id, copied: true })).toMatchObject({
      outcome: 'copied',
      cell: { number: cells[2]!.number },
    });
    const { summary } = await codesOfLot(fresh.lab, technician, { lotId: lot.id });
    expect(summary.findings.map((finding) => finding.kind)).toContain('copied');
    // A copied label is found, but the cells were not looked at by that.
    expect((await cellsOf(lot)).map((cell) => [cell.findings, cell.inspected])).toEqual([
      [['copiedCode'], false],
      [[], false],
      [['copiedCode'], false],
    ]);
  });

  it('ask before the lot grows, and find a cell by its number', async () => {
    const lot = await claimedLot(fresh, 1);
    const [cell] = await cellsOf(lot);
    expect(await scan(lot, cell!.number)).toMatchObject({ outcome: 'again' });
    await scan(lot, code(11));
    expect(await scan(lot, code(12))).toMatchObject({ outcome: 'asks', cell: null });
    expect(await scan(lot, code(12), { mayAdd: true })).toMatchObject({ outcome: 'assigned' });
    expect(await cellsOf(lot)).toHaveLength(2);
    expect((await failure(scan(lot, '  '))).message).toMatch(/the scan was empty/);
    expect((await failure(scan(lot, 'X'.repeat(61)))).message).toMatch(/Two scans in one/);
    expect((await failure(scan(lot, code(13), { cellId: cell!.id }))).code).toBe('conflict');
  });

  it('go to one cell each when two people scan at once', async () => {
    const lot = await claimedLot(fresh, 12);
    const results = await Promise.all(
      Array.from({ length: 12 }, (_, i) =>
        scan(lot, code(100 + i), {}, i % 2 === 0 ? technician : other),
      ),
    );
    expect(new Set(results.map((result) => result.cell!.id)).size).toBe(12);
    expect((await cellsOf(lot)).every((cell) => cell.code !== null)).toBe(true);
  });

  it('tell a label that another lot has already', async () => {
    const [one, two] = [await claimedLot(fresh, 1), await claimedLot(fresh, 1)];
    await scan(one, code(777));
    await scan(two, code(777));
    const { summary } = await codesOfLot(fresh.lab, technician, { lotId: two.id });
    expect(
      summary.findings.find((finding) => finding.kind === 'copiedElsewhere')?.sentence,
    ).toMatch(new RegExp(`of ${one.code}`));
  });
});

describe('packs', () => {
  it('are opened after the day’s caution, and their cells remember pack and group', async () => {
    const lot = await claimedLot(fresh, 0);
    const entered = {
      lotId: lot.id,
      clientKey: key(),
      count: 2,
      voltageV: 12.8,
      energyWh: 1331,
    };
    const [pack, second] = await addPacks(fresh.lab, technician, entered);
    expect(await addPacks(fresh.lab, technician, entered)).toEqual([]);
    const open = (who: Actor, packId: number, chemistry: 'LFP' | 'NMC' = 'LFP') =>
      breakDownPack(fresh.lab, who, {
        packId,
        version: 1,
        chemistry,
        series: 4,
        parallel: 1,
        minutes: 31,
        states: [{ group: 2, place: 1, harvest: 'questionable' }],
      });
    expect((await failure(open(technician, pack!.id))).message).toMatch(/caution/);
    await acknowledge(fresh.lab, technician, { kind: 'breakdown' });
    await acknowledge(fresh.lab, technician, { kind: 'breakdown' });
    await acknowledge(fresh.lab, other, { kind: 'breakdown' });
    expect(await fresh.lab.store.arrivals.acknowledgements.count({})).toBe(2);
    expect((await failure(open(technician, pack!.id, 'NMC'))).message).toMatch(
      /This build means NMC cells; the lot’s model .* is LFP/,
    );
    const both = await Promise.allSettled([open(technician, pack!.id), open(other, pack!.id)]);
    expect(both.map((result) => result.status).sort()).toEqual(['fulfilled', 'rejected']);
    await open(technician, second!.id);
    const view = await packsOfLot(fresh.lab, technician, { lotId: lot.id });
    expect(view.yield).toEqual({ good: 6, questionable: 2, dead: 0, minutes: 62, opened: 2 });
    expect(view.packs[0]!.cells.map((cell) => [cell.groupIndex, cell.harvest])).toEqual([
      [1, 'good'],
      [2, 'questionable'],
      [3, 'good'],
      [4, 'good'],
    ]);
    const weak = view.packs[1]!.cells[2]!;
    await volts(
      lot,
      view.packs[1]!.cells.map((cell) => [cell.id, cell.id === weak.id ? 3.11 : 3.28]),
    );
    await setHarvest(fresh.lab, technician, {
      cellId: weak.id,
      version: weak.version,
      harvest: 'dead',
    });
    const after = await packsOfLot(fresh.lab, technician, { lotId: lot.id });
    expect(after.packs[1]!.weakGroup).toMatch(/Group 3 stands 170 mV under the others/);
    expect(after.yield.dead).toBe(1);
    const printed = addPacks(fresh.lab, technician, { lotId: lot.id, count: 1, voltageV: 12 });
    expect((await failure(printed)).message).toMatch(/capacity in Ah or its energy/);
  });
});
