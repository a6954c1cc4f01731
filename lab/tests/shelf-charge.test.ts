import { randomUUID } from 'node:crypto';
import { recordCharge, recordDischarge, rowsAsCsv, typicalCell } from '@dusk-tally/core/simulator';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { importLog, recordReadings } from '../src/evidence';
import { layToRest, restsOfCell } from '../src/resting';
import { claimedLot, type FreshLab, freshLab } from '../testing/fresh-lab';
import { nmcLot } from '../testing/rest-lots';

const DAY_MS = 86_400_000;
const BEGIN = new Date('2026-10-01T08:00:00Z');

describe('what a rest means in charge', () => {
  let fresh: FreshLab;
  let clock = BEGIN;
  let seed = 900;
  beforeAll(async () => {
    fresh = await freshLab(() => clock);
  });
  afterAll(() => fresh.close());

  const on = (day: number) => (clock = new Date(BEGIN.getTime() + day * DAY_MS));
  const cellsOf = async (lotId: number) =>
    (await fresh.lab.store.cells.find({ lotId }, { order: [['position', 'ASC']] })).map(
      ({ id }) => id,
    );
  /** A discharge of a 20 Ah cell, at 0.2 It and uncharged unless it is said otherwise. */
  const discharge = (
    lotId: number,
    cellId: number,
    holdsAh: number,
    { currentA = 4, chargedFirst = false } = {},
  ) => {
    const cell = typicalCell('NMC', holdsAh);
    const plan = { intervalS: 30, ambientC: 25 };
    const charge = chargedFirst
      ? recordCharge(cell, {
          ...plan,
          currentA: 4,
          chargeV: 4.2,
          taperA: 1,
          restBeforeS: 60,
          seed: seed++,
          from: 0.9,
        })
      : [];
    const from = (charge.at(-1)?.timeS ?? -30) + 30;
    const rows = recordDischarge(cell, {
      ...plan,
      currentA,
      cutoffV: 2.8,
      restBeforeS: 3900,
      restAfterS: 60,
      seed: seed++,
    });
    return importLog(fresh.lab, fresh.admin, {
      lotId,
      cellId,
      fileName: `${seed}.csv`,
      bytes: new TextEncoder().encode(
        rowsAsCsv([...charge, ...rows.map((row) => ({ ...row, timeS: row.timeS + from }))]),
      ),
    });
  };
  const lay = (lotId: number, cellIds: number[], protocol: string) =>
    layToRest(fresh.lab, fresh.admin, {
      lotId,
      cellIds,
      protocol,
      fullAt: clock.toISOString(),
    });
  const read = (lotId: number, cellId: number, value: number) =>
    recordReadings(fresh.lab, fresh.admin, {
      lotId,
      readings: [
        {
          cellId,
          kind: 'openCircuitVoltage',
          value,
          decimals: 4,
          purpose: 'rest',
          temperatureC: 22,
          clientKey: randomUUID(),
        },
      ],
    });
  const rest = async (cellId: number) =>
    (await restsOfCell(fresh.lab, fresh.admin, { cellId }))[0]!;

  it('a cell read first on its due day stands on until a second reading tells its loss', async () => {
    on(0);
    const lot = await claimedLot(fresh, 9);
    const ids = await cellsOf(lot.id);
    await lay(lot.id, ids, 'against the lot');
    const readAll = async (day: number) => {
      on(day);
      for (const [i, cellId] of ids.entries())
        await read(lot.id, cellId, Number((3.34 - 0.0002 * day - 0.0001 * (i % 3)).toFixed(4)));
    };
    await readAll(14.5);
    expect(await rest(ids[0]!)).toMatchObject({ outcome: null, endedAt: null });
    await readAll(17);
    expect(await rest(ids[0]!)).toMatchObject({ outcome: 'keep', endedAt: clock });
  });

  it('28 days later a discharge tells what was kept; before that, and by a volt alone, nothing ends', async () => {
    on(0);
    const lot = await nmcLot(fresh, 3);
    const [good, leaky, early] = (await cellsOf(lot.id)) as [number, number, number];
    for (const cellId of [good, leaky, early]) await discharge(lot.id, cellId, 20.4);
    on(0.5);
    await lay(lot.id, [good, leaky, early], 'retention over 28 days');
    on(10);
    await discharge(lot.id, early, 19);
    on(28.5);
    await read(lot.id, good, 4.13);
    expect(await rest(good)).toMatchObject({ outcome: null, endedAt: null });
    on(29);
    await discharge(lot.id, good, 20.1);
    await discharge(lot.id, leaky, 19.2);
    expect(await rest(good)).toMatchObject({ outcome: 'keep', endedAt: clock });
    expect((await rest(good)).detail.retention!.value).toBeCloseTo(20.1 / 20.4, 2);
    expect(await rest(leaky), 'nobody read its voltage, and the discharge tells it').toMatchObject({
      outcome: 'fastLoss',
    });
    expect((await rest(early)).outcome, 'discharged before its day').toBeNull();
  });

  it('what was charged first, or discharged at another rate, tells nothing of what was kept', async () => {
    on(0);
    const lot = await nmcLot(fresh, 2);
    const [charged, faster] = (await cellsOf(lot.id)) as [number, number];
    for (const cellId of [charged, faster]) await discharge(lot.id, cellId, 20.4);
    on(0.5);
    await lay(lot.id, [charged, faster], 'retention over 28 days');
    on(29);
    await discharge(lot.id, charged, 20.3, { chargedFirst: true });
    await discharge(lot.id, faster, 20.3, { currentA: 8 });
    expect(await rest(charged)).toMatchObject({ outcome: null, endedAt: null });
    expect(await rest(faster)).toMatchObject({ outcome: null, endedAt: null });
  });

  it('per cent a month and leakage by the lot’s slow discharges; told at its end, later ones do not move it', async () => {
    on(100);
    const lot = await nmcLot(fresh, 5);
    const ids = await cellsOf(lot.id);
    for (const cellId of ids.slice(0, 2)) await discharge(lot.id, cellId, 20.2);
    const cellId = ids[4]!;
    await lay(lot.id, [cellId], 'careful');
    on(101.2);
    await read(lot.id, cellId, 4.131);
    on(104);
    await read(lot.id, cellId, 4.1251);
    expect((await rest(cellId)).detail).toMatchObject({ monthly: null });
    expect((await rest(cellId)).detail.monthlyRefused).toMatch(/2 slow discharges/);
    await discharge(lot.id, ids[2]!, 20.3);
    await discharge(lot.id, ids[3]!, 20.1);
    on(107.5);
    await read(lot.id, cellId, 4.1184);
    const ended = await rest(cellId);
    expect(ended.outcome).toBe('keep');
    const { monthly, leakageUa, slope } = ended.detail;
    // Two thirds of a charge per volt near full: some 2 mV a day are some 4 % a month.
    expect(monthly!.value).toBeGreaterThan(2);
    expect(monthly!.value).toBeLessThan(9);
    expect(leakageUa!.value / monthly!.value).toBeCloseTo((20.2 * 1e6) / 100 / 30 / 24, -1);
    expect(monthly!.standardUncertainty).toBeLessThan(monthly!.value / 2);
    expect(slope!.value).toBeCloseTo(-2, 0);
    const figures = () =>
      fresh.lab.store.figures.find({ cellId, quantity: ['selfDischargeMonth', 'leakageCurrent'] });
    const kept = (await figures()).length;
    expect(kept).toBeGreaterThanOrEqual(2);
    await discharge(lot.id, ids[0]!, 18);
    expect((await rest(cellId)).detail).toEqual(ended.detail);
    expect(await figures()).toHaveLength(kept);
  });
});
