import { randomUUID } from 'node:crypto';
import { recordDischarge, rowsAsCsv, typicalCell } from '@dusk-tally/core/simulator';
import fc from 'fast-check';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import {
  addInstrument,
  changeChannel,
  changeInstrument,
  importLog,
  listChannels,
  meterHistory,
  periodOn,
  previewMeterChange,
  recordReadings,
} from '../src/evidence';
import { issueReport, reportPage } from '../src/reports';
import { lotCells } from '../src/verdicts';
import { claimedLot, type FreshLab, freshLab } from '../testing/fresh-lab';

const STATED = {
  currentGainPct: 0.2,
  currentOffsetA: 0.002,
  voltageGainPct: 0.05,
  voltageOffsetV: 0.003,
  timePpm: 50,
};

describe('the period that holds on a day', () => {
  const periods = [
    { holdsFrom: '2026-05-01' },
    { holdsFrom: '1990-01-01' },
    { holdsFrom: '2026-09-01' },
  ];
  it.each([
    ['2026-04-30', '1990-01-01'],
    ['2026-05-01', '2026-05-01'],
    ['2026-12-31', '2026-09-01'],
    ['1980-01-01', '1990-01-01'],
  ])('on %s the one from %s', (day, from) => {
    expect(periodOn(periods, day)!.holdsFrom).toBe(from);
  });
  it('is the last begun, in whatever order they stand', () => {
    const day = fc.integer({ min: 1000, max: 9999 }).map((n) => `${n}-01-01`);
    fc.assert(
      fc.property(fc.uniqueArray(day, { minLength: 1 }), day, (days, at) => {
        const list = days.map((holdsFrom) => ({ holdsFrom }));
        const begun = [...days].sort().filter((one) => one <= at);
        expect(periodOn(list, at)!.holdsFrom).toBe(begun.at(-1) ?? [...days].sort()[0]);
      }),
    );
  });
});

describe('what holds of a meter from a day on', () => {
  let fresh: FreshLab;
  let clock = new Date('2026-04-01T08:00:00Z');
  let lot: Awaited<ReturnType<typeof claimedLot>>;
  let cells: Awaited<ReturnType<typeof lotCells>>;
  let bank: Awaited<ReturnType<typeof addInstrument>>;
  const capacity = async (cellId: number) =>
    (
      await fresh.lab.store.figures.find(
        { cellId, quantity: 'capacity' },
        { order: [['id', 'DESC']], limit: 1 },
      )
    )[0]!;
  const discharge = async (cellId: number) => {
    const rows = recordDischarge(typicalCell('LFP', 106), {
      currentA: 20.8,
      cutoffV: 2.45,
      intervalS: 20,
      restBeforeS: 3700,
      restAfterS: 60,
      ambientC: 24,
      seed: cellId,
    });
    await importLog(fresh.lab, fresh.admin, {
      lotId: lot.id,
      cellId,
      instrumentId: bank.id,
      fileName: `${cellId}.csv`,
      bytes: new TextEncoder().encode(rowsAsCsv(rows)),
    });
  };
  const change = async (more: object) => {
    const row = (await fresh.lab.store.instruments.one({ id: bank.id }))!;
    await changeInstrument(fresh.lab, fresh.admin, {
      id: row.id,
      version: row.version,
      name: row.name,
      serial: row.serial,
      accuracy: STATED,
      calibratedOn: row.calibratedOn,
      dueOn: row.dueOn,
      reason: 'the certificate came',
      ...more,
    });
  };

  beforeAll(async () => {
    fresh = await freshLab(() => clock);
    lot = await claimedLot(fresh, 3);
    cells = await lotCells(fresh.lab, fresh.admin, { lotId: lot.id });
    bank = await addInstrument(fresh.lab, fresh.admin, {
      kind: 'tester',
      name: 'Bank',
      calibratedOn: '2026-01-10',
      dueOn: '2026-06-30',
      accuracy: STATED,
    });
    await discharge(cells[0]!.id);
    clock = new Date('2026-08-01T08:00:00Z');
    await discharge(cells[1]!.id);
  });
  afterAll(() => fresh.close());

  it('a renewed calibration holds from its day on; an earlier result keeps what held then', async () => {
    const [early, late] = [await capacity(cells[0]!.id), await capacity(cells[1]!.id)];
    expect(
      await previewMeterChange(fresh.lab, fresh.admin, {
        instrumentId: bank.id,
        channelId: null,
        holdsFrom: '2026-07-01',
      }),
    ).toEqual({ runs: 1, readings: 0, lots: 1, earlier: 1 });
    await change({
      accuracy: { ...STATED, currentGainPct: 1 },
      calibratedOn: '2026-07-01',
      dueOn: '2027-06-30',
      holdsFrom: '2026-07-01',
    });
    expect(await capacity(cells[0]!.id)).toEqual(early);
    const anew = await capacity(cells[1]!.id);
    expect(anew.value).toBe(late.value);
    expect(anew.standardUncertainty).toBeGreaterThan(1.5 * late.standardUncertainty!);
    const history = await meterHistory(fresh.lab, fresh.admin, {
      instrumentId: bank.id,
      channelId: null,
    });
    expect(history.map(({ holdsFrom, reason }) => [holdsFrom, reason])).toEqual([
      ['2026-07-01', 'the certificate came'],
      ['1990-01-01', 'as first described'],
    ]);
    expect((await fresh.lab.store.instruments.one({ id: bank.id }))!.dueOn).toBe('2027-06-30');
  });

  it('a mistake in an earlier period is mended there, and what holds now stays', async () => {
    const [early, late] = [await capacity(cells[0]!.id), await capacity(cells[1]!.id)];
    await change({
      accuracy: { ...STATED, currentGainPct: 0.4 },
      calibratedOn: '2026-01-10',
      dueOn: '2026-06-30',
      holdsFrom: '1990-01-01',
      reason: 'typed from the wrong sheet',
    });
    expect((await capacity(cells[0]!.id)).standardUncertainty).toBeGreaterThan(
      early.standardUncertainty!,
    );
    expect(await capacity(cells[1]!.id)).toEqual(late);
    const row = (await fresh.lab.store.instruments.one({ id: bank.id }))!;
    expect(row).toMatchObject({ dueOn: '2027-06-30', accuracy: { currentGainPct: 1 } });
    expect(
      await fresh.lab.store.meters.periods.count({ instrumentId: bank.id }),
      'mended, not doubled',
    ).toBe(2);
  });

  it('to the same bits again once the mistake is taken back', async () => {
    const hash = async () =>
      (await fresh.lab.store.runs.find({ cellId: cells[0]!.id }))[0]!.inputHash;
    const [before, hashBefore] = [await capacity(cells[0]!.id), await hash()];
    await change({ holdsFrom: '1990-01-01', calibratedOn: '2026-01-10', dueOn: '2026-06-30' });
    expect(await hash()).not.toBe(hashBefore);
    await change({
      accuracy: { ...STATED, currentGainPct: 0.4 },
      calibratedOn: '2026-01-10',
      dueOn: '2026-06-30',
      holdsFrom: '1990-01-01',
    });
    const again = await capacity(cells[0]!.id);
    expect(await hash()).toBe(hashBefore);
    expect([again.value, again.standardUncertainty, again.inputHash]).toEqual([
      before.value,
      before.standardUncertainty,
      before.inputHash,
    ]);
  });

  it('a report states what held on the days of its results, not what holds now', async () => {
    const { number } = await issueReport(fresh.lab, fresh.admin, {
      lotId: lot.id,
      cellIds: [cells[0]!.id, cells[1]!.id],
      customer: 'Harbour Pilots',
    });
    const { snapshot } = await reportPage(fresh.lab, fresh.admin, { number });
    expect(
      snapshot.instruments.map(({ accuracy, calibration }) => [accuracy, calibration]),
    ).toEqual([
      [expect.stringContaining('current ±(0.4 %'), 'calibrated 2026-01-10, due 2026-06-30'],
      [expect.stringContaining('current ±(1 %'), 'calibrated 2026-07-01, due 2027-06-30'],
    ]);
  });

  it('typed readings go by what held of their meter on their day, too', async () => {
    const meter = await addInstrument(fresh.lab, fresh.admin, {
      kind: 'acMeter',
      name: 'Bridge',
      calibratedOn: null,
      dueOn: null,
      accuracy: { gainPct: 0.5, offset: 0.001 },
    });
    const type = (cell: number) =>
      recordReadings(fresh.lab, fresh.admin, {
        lotId: lot.id,
        instrumentId: meter.id,
        readings: [
          {
            cellId: cells[cell]!.id,
            kind: 'acResistance',
            value: 0.441,
            decimals: 3,
            clientKey: randomUUID(),
          },
        ],
      });
    const uncertainty = async (cell: number) =>
      (
        await fresh.lab.store.figures.find(
          { cellId: cells[cell]!.id, quantity: 'acResistance' },
          { order: [['id', 'DESC']], limit: 1 },
        )
      )[0]!.standardUncertainty!;
    await type(0);
    clock = new Date('2026-08-20T08:00:00Z');
    await type(1);
    const [early, late] = [await uncertainty(0), await uncertainty(1)];
    expect(
      await previewMeterChange(fresh.lab, fresh.admin, {
        instrumentId: meter.id,
        channelId: null,
        holdsFrom: '2026-08-10',
      }),
    ).toEqual({ runs: 0, readings: 1, lots: 1, earlier: 1 });
    await changeInstrument(fresh.lab, fresh.admin, {
      id: meter.id,
      version: meter.version,
      name: meter.name,
      accuracy: { gainPct: 3, offset: 0.001 },
      holdsFrom: '2026-08-10',
      reason: 'dropped, and checked',
    });
    expect(await uncertainty(0)).toBe(early);
    expect(await uncertainty(1)).toBeGreaterThan(2 * late);
    const all = await fresh.lab.store.figures.find({
      cellId: cells[0]!.id,
      quantity: 'acResistance',
    });
    expect(all, 'nothing is made new that is as it was').toHaveLength(1);
    clock = new Date('2026-08-01T08:00:00Z');
  });

  it('a day to come, an accuracy of nothing, another kind’s accuracy: refused on their field', async () => {
    await expect(change({ holdsFrom: '2026-08-02' })).rejects.toMatchObject({
      details: { field: 'holdsFrom' },
    });
    await expect(change({ accuracy: { gainPct: 1, offset: 0 } })).rejects.toMatchObject({
      details: { field: 'accuracy' },
    });
    await expect(
      change({ accuracy: { ...STATED, currentGainPct: 0, currentOffsetA: 0 } }),
    ).rejects.toThrow(/how far the current may be off/);
    await expect(change({ version: 1 })).rejects.toMatchObject({
      code: 'conflict',
      details: { current: { id: bank.id } },
    });
  });

  it('a channel’s check of voltages holds from its day on, too', async () => {
    const channel = (await listChannels(fresh.lab, fresh.admin, {}))[0]!;
    const values = async () =>
      Promise.all([capacity(cells[0]!.id), capacity(cells[1]!.id)]).then((rows) =>
        rows.map(({ value }) => value),
      );
    const before = await values();
    await changeChannel(fresh.lab, fresh.admin, {
      id: channel.id,
      version: channel.version,
      name: channel.name,
      voltageTable: [
        { shown: 2, reference: 2.03 },
        { shown: 4, reference: 4.03 },
      ],
      holdsFrom: '2026-07-15',
      reason: 'compared with the reference',
    });
    const after = await values();
    expect(after[0]).toBe(before[0]);
    expect(after[1]).toBeGreaterThan(before[1]!);
  });
});
