import { randomUUID } from 'node:crypto';
import { describe, expect, it } from 'vitest';
import type { Actor } from '../src';
import { lotFindings, makeGood, recordInspection, withdrawFinding } from '../src/arrivals';
import { importLog, recordReadings } from '../src/evidence';
import { lotCells } from '../src/verdicts';
import { today } from '../src/today';
import { failure } from '../testing/failure';
import { claimedLot } from '../testing/fresh-lab';
import {
  cellsOf,
  fresh,
  gates,
  inspect,
  key,
  other,
  sample,
  technician,
  volts,
  useArrivalLab,
} from '../testing/arrival-lab';

useArrivalLab();

describe('inspection', () => {
  it('a cell somebody else found something on is not cleared; who clears it is told at once', async () => {
    const lot = await claimedLot(fresh, 3);
    const [one, two, three] = await cellsOf(lot);
    await inspect(lot, [{ act: 'finding', cellIds: [one!.id], code: 'scratches', note: null }]);
    // Typed by another one, who had not seen it yet.
    const marks = await recordInspection(fresh.lab, other, {
      lotId: lot.id,
      clientKey: randomUUID(),
      marks: [
        { act: 'finding', cellIds: [two!.id], code: 'leaking', note: null },
        {
          act: 'clear',
          cellIds: [one!.id, two!.id, three!.id],
          seen: { [one!.id]: ['scratches'] },
        },
      ],
    });
    expect(marks.found).toEqual([
      expect.objectContaining({ number: two!.number, severity: 'stop', person: other.name }),
    ]);
    const after = await cellsOf(lot);
    expect(after.map(({ gate }) => gate)).toEqual(['open', 'quarantined', 'open']);
    const entries = await fresh.lab.store.arrivals.inspections.find({
      lotId: lot.id,
      act: 'clear',
    });
    expect(entries.map(({ cellId }) => cellId).sort()).toEqual([one!.id, three!.id].sort());
    // Programs that do not say what they saw are not asked.
    const plain = await recordInspection(fresh.lab, other, {
      lotId: lot.id,
      clientKey: randomUUID(),
      marks: [{ act: 'clear', cellIds: [two!.id] }],
    });
    expect(plain).toEqual({ cells: 1, found: [] });
  });

  it('all clear except three: quarantines, blocks, notes, and opens the rest', async () => {
    const lot = await claimedLot(fresh, 8);
    const cells = await cellsOf(lot);
    await inspect(lot, [
      { act: 'finding', cellIds: [cells[0]!.id], code: 'leaking', note: 'wet at the vent' },
      { act: 'finding', cellIds: [cells[1]!.id], code: 'thread', note: null },
      { act: 'finding', cellIds: [cells[2]!.id], code: 'scratches', note: null },
      { act: 'clearRest', except: [cells[7]!.id] },
    ]);
    expect((await cellsOf(lot)).map((cell) => [cell.inspected, cell.gate])).toEqual([
      [true, 'quarantined'],
      [true, 'blocked'],
      [true, 'open'],
      ...Array(4).fill([true, 'open']),
      [false, 'open'],
    ]);
    await volts(
      lot,
      cells.map((cell) => [cell.id, 3.29]),
    );
    expect(await gates(lot)).toEqual({ quarantined: 1, blocked: 1, open: 1, ready: 5 });
    const items = (await today(fresh.lab, technician, {})).items.filter(
      (item) => item.lot?.code === lot.code,
    );
    expect(items.find((item) => item.kind === 'quarantined')?.count).toBe(1);
    expect(items.find((item) => item.kind === 'ready')?.count).toBe(5);
  });

  it('keeps a blocked cell off the tester until it was made good, before and after recorded', async () => {
    const lot = await claimedLot(fresh, 2);
    const [cell] = await cellsOf(lot);
    await inspect(lot, [{ act: 'finding', cellIds: [cell!.id], code: 'corrosion', note: null }]);
    const take = (who: Actor, despiteGate: string | null = null) =>
      importLog(fresh.lab, who, {
        lotId: lot.id,
        cellId: cell!.id,
        fileName: 'x.csv',
        bytes: sample('02-quantity-slash-unit.csv'),
        despiteGate,
      });
    const refused = await failure(take(technician));
    expect(refused).toMatchObject({ code: 'notAllowed', details: { gate: 'blocked' } });
    expect(refused.message).toMatch(/to be made good.*Nothing was stored/);
    expect((await failure(take(technician, 'run before'))).code).toBe('notAllowed');
    const [finding] = await lotFindings(fresh.lab, technician, { lotId: lot.id });
    expect(
      (
        await failure(
          makeGood(fresh.lab, technician, { findingId: finding!.id, before: '', done: 'x' }),
        )
      ).message,
    ).toMatch(/Before: Expected how it was/);
    await makeGood(fresh.lab, technician, {
      findingId: finding!.id,
      before: 'white bloom on the terminal',
      done: 'cleaned, contact bright',
    });
    expect(
      (
        await failure(
          makeGood(fresh.lab, other, { findingId: finding!.id, before: 'again', done: 'again' }),
        )
      ).code,
    ).toBe('conflict');
    await take(technician);
    const [settled] = await lotFindings(fresh.lab, technician, { lotId: lot.id });
    expect(settled).toMatchObject({
      state: 'madeGood',
      settled: { before: 'white bloom on the terminal', note: 'cleaned, contact bright' },
    });
  });

  it('lets only a lead open a quarantine, and nobody make a stop good', async () => {
    const lot = await claimedLot(fresh, 1);
    const [cell] = await cellsOf(lot);
    await inspect(lot, [{ act: 'finding', cellIds: [cell!.id], code: 'smell', note: null }]);
    const [finding] = await lotFindings(fresh.lab, technician, { lotId: lot.id });
    const findingId = finding!.id;
    expect(
      (
        await failure(
          makeGood(fresh.lab, fresh.admin, { findingId, before: 'smelt', done: 'aired' }),
        )
      ).message,
    ).toMatch(/cannot be made good/);
    const reason = 'the glue of the box';
    expect(
      (await failure(withdrawFinding(fresh.lab, technician, { findingId, reason }))).code,
    ).toBe('notAllowed');
    expect((await lotCells(fresh.lab, technician, { lotId: lot.id }))[0]).toMatchObject({
      grade: 'Recycle',
      reasons: ['Recycle, whatever it measures: sweet solvent smell.'],
    });
    await withdrawFinding(fresh.lab, fresh.admin, { findingId, reason });
    expect((await cellsOf(lot))[0]).toMatchObject({ gate: 'open', inspected: false, worst: null });
    expect((await lotCells(fresh.lab, technician, { lotId: lot.id }))[0]!.grade).toBeNull();
  });

  it('a lead may take in a run that was made before the finding, with the reason on record', async () => {
    const lot = await claimedLot(fresh, 1);
    const [cell] = await cellsOf(lot);
    await inspect(lot, [{ act: 'finding', cellIds: [cell!.id], code: 'hot', note: null }]);
    await importLog(fresh.lab, fresh.admin, {
      lotId: lot.id,
      cellId: cell!.id,
      fileName: '14.csv',
      bytes: sample('14-stopped-early.csv'),
      despiteGate: 'the run was over before it grew hot',
    });
    const entry = await fresh.lab.store.auditEntries.one(
      { act: 'took in log', subjectId: cell!.number },
      { order: [['id', 'DESC']] },
    );
    expect(entry!.after).toMatchObject({ despiteGate: 'the run was over before it grew hot' });
  });

  it('turns a measured thickness into a finding, and takes it back with a better reading', async () => {
    const lot = await claimedLot(fresh, 3);
    const cells = await cellsOf(lot);
    const thick = (cellId: number, value: number | null) =>
      recordReadings(fresh.lab, technician, {
        lotId: lot.id,
        readings: [{ cellId, kind: 'thickness', value, decimals: 1, clientKey: key() }],
      });
    // Drawn 36 mm: 3 % is 37.08, 8 % is 38.88.
    await thick(cells[0]!.id, 37.2);
    await thick(cells[1]!.id, 38.9);
    await thick(cells[2]!.id, 36.4);
    expect((await cellsOf(lot)).map((cell) => [cell.findings, cell.gate])).toEqual([
      [['slightlySwollen'], 'open'],
      [['swollen'], 'quarantined'],
      [[], 'open'],
    ]);
    await thick(cells[1]!.id, 37.3);
    expect((await cellsOf(lot))[1]!.findings).toEqual(['slightlySwollen']);
    await thick(cells[1]!.id, null);
    expect((await cellsOf(lot))[1]).toMatchObject({ findings: [], inspected: false });
  });

  it('does not find anew what a person took back, until it is measured again', async () => {
    const lot = await claimedLot(fresh, 1);
    const cellId = (await cellsOf(lot))[0]!.id;
    const type = (kind: 'thickness' | 'mass', value: number) =>
      recordReadings(fresh.lab, technician, {
        lotId: lot.id,
        readings: [{ cellId, kind, value, decimals: 1, clientKey: key() }],
      });
    const findings = async () => (await cellsOf(lot))[0]!.findings;
    await type('thickness', 37.2);
    const [entry] = await fresh.lab.store.arrivals.inspections.find({ cellId });
    expect(entry!.readingId).not.toBeNull();
    await withdrawFinding(fresh.lab, technician, {
      findingId: entry!.id,
      reason: 'the calliper sat on the label',
    });
    await type('mass', 1980);
    expect(await findings(), 'another reading of the cell').toEqual([]);
    await type('thickness', 37.2);
    expect(await findings(), 'measured again').toEqual(['slightlySwollen']);
  });

  it('keeps both marks when two people mark one cell at the same moment', async () => {
    const lot = await claimedLot(fresh, 6);
    const cells = await cellsOf(lot);
    await Promise.all(
      cells.flatMap((cell) => [
        inspect(lot, [{ act: 'clear', cellIds: [cell.id] }], technician),
        inspect(lot, [{ act: 'finding', cellIds: [cell.id], code: 'burnt', note: null }], other),
      ]),
    );
    expect((await cellsOf(lot)).map((cell) => cell.gate)).toEqual(Array(6).fill('quarantined'));
  });

  it('refuses a foreign cell and an unknown finding, and keeps nothing of that batch', async () => {
    const lot = await claimedLot(fresh, 2);
    const foreign = (await cellsOf(await claimedLot(fresh, 1)))[0]!;
    const own = (await cellsOf(lot))[0]!;
    const bad = [
      { act: 'clear' as const, cellIds: [own.id] },
      { act: 'finding' as const, cellIds: [foreign.id], code: 'hot', note: null },
    ];
    expect((await failure(inspect(lot, bad))).code).toBe('notFound');
    expect(
      (
        await failure(
          inspect(lot, [{ act: 'finding', cellIds: [own.id], code: 'haunted', note: null }]),
        )
      ).message,
    ).toMatch(/haunted is no kind of finding/);
    expect((await cellsOf(lot))[0]!.inspected).toBe(false);
  });
});
