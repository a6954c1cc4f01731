import { describe, expect, it } from 'vitest';
import type { Actor } from '../src';
import {
  boxView,
  cancelLot,
  drawPlan,
  lotArrival,
  recordReceiving,
  resumeLot,
  scanCode,
  setCount,
} from '../src/arrivals';
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
  technician,
  volts,
  useArrivalLab,
} from '../testing/arrival-lab';

useArrivalLab();

describe('the box', () => {
  it('is counted: more cells get numbers, fewer lose the last ones, unless those carry something', async () => {
    const lot = await claimedLot(fresh, 3);
    await setCount(fresh.lab, technician, { lotId: lot.id, count: 6 });
    const six = await cellsOf(lot);
    expect(six).toHaveLength(6);
    expect(new Set(six.map((cell) => cell.number)).size).toBe(6);
    await setCount(fresh.lab, technician, { lotId: lot.id, count: 5 });
    await inspect(lot, [{ act: 'clear', cellIds: [six[4]!.id] }]);
    const refused = await failure(setCount(fresh.lab, technician, { lotId: lot.id, count: 2 }));
    expect(refused).toMatchObject({
      code: 'conflict',
      message: expect.stringMatching(new RegExp(`${six[4]!.number} of the cells beyond 2 has`)),
    });
    expect(await cellsOf(lot)).toHaveLength(5);
    await setCount(fresh.lab, technician, { lotId: lot.id, count: 5 });
    const { history } = await boxView(fresh.lab, technician, { lotId: lot.id });
    expect(history.filter((entry) => entry.field === 'counted').map((e) => e.value)).toEqual([
      5, 5, 6,
    ]);
  });

  it('may hold nothing yet, and never more than the lab can take', async () => {
    const lot = await claimedLot(fresh, 0);
    expect(await cellsOf(lot)).toEqual([]);
    expect((await lotArrival(fresh.lab, technician, { lotId: lot.id })).cells).toBe(0);
    await setCount(fresh.lab, technician, { lotId: lot.id, count: 0 });
    expect(
      (await failure(setCount(fresh.lab, technician, { lotId: lot.id, count: 20_001 }))).code,
    ).toBe('invalid');
    expect(
      (await failure(setCount(fresh.lab, technician, { lotId: lot.id, count: 2.5 }))).message,
    ).toMatch(/whole number/);
  });

  it('shows two people each other’s entries and loses none', async () => {
    const lot = await claimedLot(fresh, 4);
    const enter = (who: Actor, field: string, value: unknown) =>
      recordReceiving(fresh.lab, who, {
        lotId: lot.id,
        clientKey: key(),
        entries: [{ field, value }],
      });
    await Promise.all([
      enter(technician, 'grossG', 8_450),
      enter(other, 'tareG', 520),
      enter(technician, 'scaleToleranceG', 5),
      enter(other, 'parts', [{ name: 'bus bars', expected: 4, found: 3 }]),
    ]);
    await enter(other, 'grossG', 8_460);
    const box = await boxView(fresh.lab, technician, { lotId: lot.id });
    expect(box.values).toMatchObject({ grossG: 8_460, tareG: 520 });
    expect(box.parts).toEqual([{ name: 'bus bars', expected: 4, found: 3 }]);
    const gross = box.history.filter((entry) => entry.field === 'grossG');
    expect(gross.map((entry) => [entry.person, entry.value])).toEqual([
      ['Olm', 8_460],
      ['Tess', 8_450],
    ]);
  });

  it('takes a batch once, however often it is sent, and refuses what it cannot be', async () => {
    const lot = await claimedLot(fresh, 2);
    const batch = {
      lotId: lot.id,
      clientKey: key(),
      entries: [{ field: 'netG', value: 3_960 }],
    };
    const results = await Promise.all(
      [1, 2, 3].map(() => recordReceiving(fresh.lab, technician, batch)),
    );
    expect(results.map((result) => result.stored).sort()).toEqual([0, 0, 1]);
    const enter = (field: string, value: unknown, who = technician) =>
      recordReceiving(fresh.lab, who, {
        lotId: lot.id,
        clientKey: key(),
        entries: [{ field, value }],
      });
    expect((await failure(enter('netG', -1))).code).toBe('invalid');
    expect((await failure(enter('colour', 'red'))).message).toMatch(/colour is nothing/);
    expect((await failure(enter('school', 'recovery'))).code).toBe('notAllowed');
  });
});

describe('a lot called off half way', () => {
  it('takes nothing more, keeps what it has, and can be taken up again', async () => {
    const lot = await claimedLot(fresh, 3);
    const cells = await cellsOf(lot);
    await inspect(lot, [{ act: 'clear', cellIds: [cells[0]!.id] }]);
    await cancelLot(fresh.lab, fresh.admin, {
      lotId: lot.id,
      version: lot.version,
      reason: 'the supplier took it back',
    });
    for (const work of [
      () => inspect(lot, [{ act: 'clearRest', except: [] }]),
      () => volts(lot, [[cells[0]!.id, 3.3]]),
      () => setCount(fresh.lab, technician, { lotId: lot.id, count: 4 }),
      () => scanCode(fresh.lab, technician, { lotId: lot.id, clientKey: key(), text: 'ABCD' }),
      () => drawPlan(fresh.lab, technician, { lotId: lot.id, plan: { method: 'all' }, seed: 1 }),
    ])
      expect((await failure(work())).message).toMatch(/called off \(the supplier took it back\)/);
    expect((await cellsOf(lot))[0]!.inspected).toBe(true);
    expect(
      (await today(fresh.lab, technician, {})).heads.some((head) => head.lot.id === lot.id),
    ).toBe(false);
    await resumeLot(fresh.lab, fresh.admin, { lotId: lot.id, version: lot.version + 1 });
    await inspect(lot, [{ act: 'clearRest', except: [] }]);
    expect((await cellsOf(lot)).every((cell) => cell.inspected)).toBe(true);
  });
});

describe('a lot of ten thousand', () => {
  it('is inspected, released and counted as one, and every cell stands where it should', async () => {
    const lot = await claimedLot(fresh, 10_000);
    const cells = await cellsOf(lot);
    await inspect(lot, [
      {
        act: 'finding',
        cellIds: cells.slice(0, 3).map((cell) => cell.id),
        code: 'hot',
        note: null,
      },
      { act: 'clearRest', except: [] },
    ]);
    await recordReceiving(fresh.lab, technician, {
      lotId: lot.id,
      clientKey: key(),
      entries: [{ field: 'skip:readings', value: true }],
    });
    expect(await gates(lot)).toEqual({ quarantined: 3, ready: 9_997 });
    const lines = await lotCells(fresh.lab, technician, { lotId: lot.id });
    expect(lines.filter((line) => line.waitingFor.includes('the inspection'))).toHaveLength(0);
    const plan = await drawPlan(fresh.lab, technician, {
      lotId: lot.id,
      plan: { method: 'risk', goodPct: 1, producerRiskPct: 5, badPct: 3, consumerRiskPct: 10 },
      seed: 11,
    });
    expect(new Set(plan.cellIds).size).toBe(plan.sampleSize);
  });
});
