import { randomUUID } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { recordInspection } from '../src/arrivals';
import { importLog, recordReadings } from '../src/evidence';
import { layToRest, restShelf, restsOfCell, takeFromShelf } from '../src/resting';
import { dueItems, openLots } from '../src/today';
import { cellPage, lotCells } from '../src/verdicts';
import { failure } from '../testing/failure';
import { claimedLot, type FreshLab, freshLab } from '../testing/fresh-lab';
import { logOf, nmcLot } from '../testing/rest-lots';

const DAY_MS = 86_400_000;
const BEGIN = new Date('2026-10-01T08:00:00Z');

describe('cells on the shelf', () => {
  let fresh: FreshLab;
  let clock = BEGIN;
  beforeAll(async () => {
    fresh = await freshLab(() => clock);
  });
  afterAll(() => fresh.close());

  const on = (day: number) => (clock = new Date(BEGIN.getTime() + day * DAY_MS));
  const cellsOf = (lotId: number) =>
    fresh.lab.store.cells.find({ lotId }, { order: [['position', 'ASC']] });
  const lay = (lotId: number, cellIds: number[], protocol: string, more: object = {}) =>
    layToRest(fresh.lab, fresh.admin, {
      lotId,
      cellIds,
      protocol,
      fullAt: clock.toISOString(),
      ...more,
    });
  const read = (lotId: number, volts: Record<number, number | null>, temperatureC = 22) =>
    recordReadings(fresh.lab, fresh.admin, {
      lotId,
      readings: Object.entries(volts).map(([cellId, value]) => ({
        cellId: Number(cellId),
        kind: 'openCircuitVoltage' as const,
        value,
        decimals: 4,
        purpose: 'rest' as const,
        temperatureC,
        clientKey: randomUUID(),
      })),
    });
  const line = async (cellId: number) =>
    (await restShelf(fresh.lab, fresh.admin, {})).find((one) => one.cellId === cellId)!;
  const standing = async (lotId: number, cellId: number) =>
    (await lotCells(fresh.lab, fresh.admin, { lotId })).find(({ id }) => id === cellId)!;

  it('was charged here: no charge ended before the cells arrived', async () => {
    on(0);
    const lot = await claimedLot(fresh, 2);
    const { id } = (await cellsOf(lot.id))[0]!;
    const arrivedOn = clock.toISOString().slice(0, 10);
    await fresh.lab.store.lots.update({ arrivedOn }, { id: lot.id });
    const fullAt = new Date(clock.getTime() - 3 * DAY_MS).toISOString();
    const { message } = await failure(lay(lot.id, [id], 'careful', { fullAt }));
    expect(message).toMatch(`ended here: these cells arrived on ${arrivedOn}.`);
  });

  it('two weeks of a flat chemistry: the fast loser is named by its lot, First is reached by the others', async () => {
    on(0);
    const lot = await claimedLot(fresh, 10);
    const ids = (await cellsOf(lot.id)).map(({ id }) => id);
    await recordInspection(fresh.lab, fresh.admin, {
      lotId: lot.id,
      clientKey: randomUUID(),
      marks: [{ act: 'clear', cellIds: ids }],
    } as never);
    for (const [i, cellId] of ids.slice(0, 2).entries())
      await importLog(fresh.lab, fresh.admin, {
        lotId: lot.id,
        cellId,
        fileName: `of-${i}.csv`,
        bytes: logOf(70 + i),
      });
    await recordReadings(fresh.lab, fresh.admin, {
      lotId: lot.id,
      readings: ids.map((cellId) => ({
        cellId,
        kind: 'acResistance' as const,
        value: 0.43,
        decimals: 2,
        clientKey: randomUUID(),
      })),
    });
    expect(await standing(lot.id, ids[0]!)).toMatchObject({
      grade: 'Second',
      waitingFor: ['the self-discharge check'],
    });

    await lay(lot.id, ids, 'against the lot');
    expect((await standing(lot.id, ids[0]!)).life).toBe('resting');
    const volts = (day: number) =>
      Object.fromEntries(
        ids.map((id, i) => [id, Number((3.34 - (i === 1 ? 0.0009 : 0.0002) * day).toFixed(4))]),
      );
    on(0.05);
    await read(lot.id, volts(0.05));
    expect((await line(ids[0]!)).detail, 'the first day is relaxation').toMatchObject({
      counted: 0,
      lossV: null,
    });
    on(1.1);
    await read(lot.id, volts(1.1));
    on(7);
    await read(lot.id, volts(7));
    expect(await line(ids[1]!)).toMatchObject({ state: 'early', outcome: null, endedAt: null });
    expect((await line(ids[1]!)).detail).toMatchObject({ counted: 2, isFastLoser: true });

    on(14.2);
    expect((await line(ids[0]!)).state).toBe('due');
    await read(lot.id, volts(14.2));
    expect(await line(ids[0]!)).toMatchObject({ outcome: 'keep', endedAt: clock });
    expect(await line(ids[1]!)).toMatchObject({ outcome: 'fastLoss' });
    const slope = (await line(ids[0]!)).detail.slope!;
    expect(slope.value).toBeCloseTo(-0.2, 2);
    expect(await standing(lot.id, ids[0]!)).toMatchObject({ grade: 'First', life: 'graded' });
    expect((await standing(lot.id, ids[1]!)).grade).toBe('Second');
    expect((await standing(lot.id, ids[1]!)).reasons.join()).toContain('it loses charge at rest');
    const { number } = (await cellsOf(lot.id))[0]!;
    const page = await cellPage(fresh.lab, fresh.admin, { number });
    expect(page.life.map(({ state }) => state)).toContain('resting');
    const figures = await fresh.lab.store.figures.find({
      cellId: ids[0]!,
      quantity: 'selfDischargeSlope',
    });
    expect(figures, 'one for each reading that counts from the second on').toHaveLength(2);
  });

  it('a reading taken back ends nothing any more, and the same again stores no figure twice', async () => {
    on(40);
    const lot = await nmcLot(fresh, 2);
    const ids = (await cellsOf(lot.id)).map(({ id }) => id);
    await lay(lot.id, ids, 'careful');
    on(41.1);
    await read(lot.id, { [ids[0]!]: 4.165, [ids[1]!]: 4.165 });
    on(47.5);
    await read(lot.id, { [ids[0]!]: 4.1584, [ids[1]!]: 4.02 });
    expect((await line(ids[0]!)).outcome).toBe('keep');
    expect((await line(ids[1]!)).outcome).toBe('fastLoss');
    clock = new Date(clock.getTime() + 60_000);
    await read(lot.id, { [ids[1]!]: 4.12 });
    expect((await line(ids[1]!)).outcome, 'mended within half an hour').toBe('keep');
    clock = new Date(clock.getTime() + 60_000);
    await read(lot.id, { [ids[1]!]: null });
    expect(await line(ids[1]!)).toMatchObject({ outcome: null, endedAt: null });
    expect((await line(ids[1]!)).detail).toMatchObject({ counted: 1, slope: null });
  });

  it('a reading held without a connection stands where it was read; one to come, or of long ago, does not', async () => {
    on(60);
    const lot = await nmcLot(fresh, 1);
    const [cell] = await cellsOf(lot.id);
    await lay(lot.id, [cell!.id], 'careful');
    on(61.1);
    const readAt = clock.toISOString();
    on(67.2);
    await read(lot.id, { [cell!.id]: 4.15 });
    const held = (value: number, moment: string) =>
      recordReadings(fresh.lab, fresh.admin, {
        lotId: lot.id,
        readings: [
          {
            cellId: cell!.id,
            kind: 'openCircuitVoltage',
            value,
            decimals: 4,
            purpose: 'rest',
            readAt: moment,
            clientKey: randomUUID(),
          },
        ],
      });
    await held(4.165, readAt);
    expect((await line(cell!.id)).detail).toMatchObject({ counted: 2, voltageV: 4.15 });
    expect((await line(cell!.id)).detail.lossV).toBeCloseTo(0.015, 9);
    for (const moment of ['2031-01-01T00:00:00Z', '2001-01-01T00:00:00Z']) {
      clock = new Date(clock.getTime() + 3_600_000);
      await held(4.14, moment);
      const [newest] = await fresh.lab.store.readings.find(
        { cellId: cell!.id },
        { order: [['id', 'DESC']], limit: 1 },
      );
      expect(newest!.at).toEqual(clock);
    }
  });

  it('what is read after it was over, or after current flowed, changes nothing', async () => {
    on(500);
    const lot = await nmcLot(fresh, 2);
    const [kept, used] = (await cellsOf(lot.id)).map(({ id }) => id) as [number, number];
    await lay(lot.id, [kept, used], 'careful');
    on(501.1);
    await read(lot.id, { [kept]: 4.165, [used]: 4.165 });
    on(507.5);
    await read(lot.id, { [kept]: 4.158 });
    expect((await line(kept)).outcome).toBe('keep');
    const { version } = (await fresh.lab.store.resting.rests.one({ cellId: kept }))!;
    on(508);
    await read(lot.id, { [kept]: 3.1 });
    const [after] = await restsOfCell(fresh.lab, fresh.admin, { cellId: kept });
    expect(after).toMatchObject({ outcome: 'keep' });
    expect(after!.detail).toMatchObject({ counted: 2, voltageV: 4.158 });
    expect((await fresh.lab.store.resting.rests.one({ cellId: kept }))!.version).toBe(version);

    on(509);
    await importLog(fresh.lab, fresh.admin, {
      lotId: lot.id,
      cellId: used,
      fileName: 'dated.csv',
      bytes: new TextEncoder().encode(
        ['date,voltage_V,current_A']
          .concat(
            Array.from({ length: 40 }, (_, i) => {
              const at = new Date(clock.getTime() - 7_200_000 + i * 60_000);
              return `${at.toISOString().slice(0, 19).replace('T', ' ')},${(3.9 - i * 0.03).toFixed(3)},${i < 5 ? 0 : -4}`;
            }),
          )
          .join('\n'),
      ),
    });
    expect((await fresh.lab.store.runs.one({ cellId: used }))!.startedAt).not.toBeNull();
    await read(lot.id, { [used]: 3.0 });
    expect(await line(used)).toMatchObject({ outcome: null, endedAt: null });
    await takeFromShelf(fresh.lab, fresh.admin, {
      restIds: [(await line(used)).restId],
      reason: 'it was tested',
    });
    const early = new Date(BEGIN.getTime() + 505 * DAY_MS).toISOString();
    expect((await failure(lay(lot.id, [used], 'careful', { fullAt: early }))).message).toMatch(
      /a run began after that moment/,
    );
  });

  it('by two looks a low cell stands once more, and a third look asks for a reason', async () => {
    on(80);
    const lot = await nmcLot(fresh, 1);
    const [cell] = await cellsOf(lot.id);
    const look = async (day: number, days: number, volt: number, more: object = {}) => {
      on(day);
      await lay(lot.id, [cell!.id], 'two-look', more);
      on(day + 1.1);
      await read(lot.id, { [cell!.id]: volt + 0.01 });
      on(day + days);
      await read(lot.id, { [cell!.id]: volt });
      return (await restsOfCell(fresh.lab, fresh.admin, { cellId: cell!.id }))[0]!.outcome;
    };
    expect(await look(80, 7.2, 4.02)).toBe('secondLook');
    expect(await look(90, 14.1, 4.01)).toBe('nonCritical');
    const third = await failure(look(110, 7.1, 4.2));
    expect(third).toMatchObject({ code: 'invalid', details: { field: 'reason' } });
    expect(third.message).toMatch(/not tested until it passes/);
    expect(
      await look(120, 7.1, 4.2, { reason: 'the meter of the first two was found wrong' }),
    ).toBe('keep');
  });

  it('is due by day, is taken off with a reason, and is not laid down twice', async () => {
    on(200);
    const lot = await nmcLot(fresh, 3);
    const ids = (await cellsOf(lot.id)).map(({ id }) => id);
    await lay(lot.id, ids, 'careful');
    expect((await failure(lay(lot.id, ids, 'careful'))).message).toMatch(/on the shelf already/);
    const due = async () =>
      (await dueItems(fresh.lab, await openLots(fresh.lab))).filter(
        (item) => item.kind === 'shelf' && item.lot?.code === lot.code,
      );
    expect(await due()).toMatchObject([{ count: 3, urgency: 'canWait', path: '/shelf' }]);
    on(208);
    expect(await due()).toMatchObject([{ count: 3, urgency: 'now' }]);
    const { restId } = await line(ids[0]!);
    const off = { restIds: [restId], reason: 'needed for a set' };
    expect(await takeFromShelf(fresh.lab, fresh.admin, off)).toEqual({ taken: 1 });
    expect((await failure(takeFromShelf(fresh.lab, fresh.admin, off))).code).toBe('conflict');
    expect(await due()).toMatchObject([{ count: 2 }]);
    expect((await standing(lot.id, ids[0]!)).life).not.toBe('resting');
  });

  it('refuses what cannot stand there: foreign cells, moments to come, what is set apart', async () => {
    on(300);
    const lot = await nmcLot(fresh, 2);
    const ids = (await cellsOf(lot.id)).map(({ id }) => id);
    const other = await nmcLot(fresh, 1);
    expect((await failure(lay(other.id, ids, 'careful'))).code).toBe('notFound');
    const tomorrow = new Date(clock.getTime() + DAY_MS).toISOString();
    expect((await failure(lay(lot.id, ids, 'careful', { fullAt: tomorrow }))).message).toMatch(
      /charge ended/,
    );
    expect((await failure(lay(lot.id, ids, 'slow'))).message).toMatch(/one of the protocols/);
    await recordInspection(fresh.lab, fresh.admin, {
      lotId: lot.id,
      clientKey: randomUUID(),
      marks: [{ act: 'finding', cellIds: [ids[0]!], code: 'leaking', note: null }],
    } as never);
    expect((await failure(lay(lot.id, ids, 'careful'))).message).toMatch(/set apart/);
  });
});
