import { expect, it } from 'vitest';
import { changeClaim } from '../src/arrivals';
import { bringUpToDate, recordReadings } from '../src/evidence';
import { issueReport } from '../src/reports';
import {
  cellPage,
  holdsView,
  liftHold,
  lotCells,
  lotHead,
  moveRun,
  movesOfCell,
  setAside,
} from '../src/verdicts';
import { today } from '../src/today';
import { failure } from '../testing/failure';
import { claimedLot } from '../testing/fresh-lab';
import {
  code,
  fresh,
  ids,
  line,
  lines,
  logOf,
  lotId,
  numbers,
  take,
  verdict,
  useHoldsLab,
} from '../testing/holds-lab';

useHoldsLab();

it('more than such a cell can hold is held: kept, shown, in no figure of the lot', async () => {
  const before = (await verdict()).capacity!;
  await take(6, logOf(106, 20, { gainPct: 80 }));
  const held = await line(6);
  expect(held.held).toMatch(/more than such a cell can hold: at most \d+/);
  expect(held.holds.map(({ rule }) => rule)).toEqual(['tooMuch', 'understated']);
  expect(held).toMatchObject({ verdict: null, grade: null, stateOfHealth: null });
  const after = await verdict();
  expect(after.capacity).toMatchObject({ n: before.n, held: 1, met: before.met });
  expect(after.capacity!.mean).toBe(before.mean);
  expect(after.holds[0]).toMatchObject({ count: 1, cells: [numbers[6]] });
  expect(after.sentence).toMatch(/1 of 20 is held/);
  expect(after.sentence).toMatch(/13 of 20 are not tested/);
  const { strokes } = await lotHead(fresh.lab, fresh.admin, { code });
  expect(strokes[6]!.mark).toBe('held');
  const { items } = await today(fresh.lab, fresh.admin, {});
  expect(items.find(({ kind, lot }) => kind === 'held' && lot?.code === code)!.count).toBe(1);
});

it('a report is not issued over a hold, and says which', async () => {
  const { message } = await failure(
    issueReport(fresh.lab, fresh.admin, { lotId, cellIds: ids.slice(5, 7), customer: 'A buyer' }),
  );
  expect(message).toContain(numbers[6]);
  expect(message).not.toContain(numbers[5]);
  expect(message).toMatch(/have a lead look/);
  const issued = await issueReport(fresh.lab, fresh.admin, {
    lotId,
    cellIds: ids.slice(4, 6),
    customer: 'A buyer',
  });
  expect(issued.number).toMatch(/^R-/);
});

it('only a lead lifts it, with a reason that stays; twice at once is a conflict', async () => {
  const holds = await holdsView(fresh.lab, fresh.admin, { lotId, cellId: ids[6]! });
  const [first, second] = holds;
  const technician = { ...fresh.admin, role: 'technician' as const };
  const lift = { holdId: first!.id, version: first!.version, reason: 'shunt was changed' };
  expect((await failure(liftHold(fresh.lab, technician, lift))).code).toBe('notAllowed');
  expect(
    (await failure(liftHold(fresh.lab, fresh.admin, { ...lift, reason: ' ' }))).message,
  ).toMatch(/reason/);
  await liftHold(fresh.lab, fresh.admin, lift);
  expect((await failure(liftHold(fresh.lab, fresh.admin, lift))).code).toBe('conflict');
  // Another doubt is still open.
  expect((await line(6)).held).toMatch(/nobody understates/);
  await liftHold(fresh.lab, fresh.admin, { holdId: second!.id, reason: 'shunt was changed' });
  expect(await line(6)).toMatchObject({ held: null, verdict: 'met' });
  const lifted = await holdsView(fresh.lab, fresh.admin, { lotId, cellId: ids[6]! });
  expect(lifted.every(({ liftReason }) => liftReason === 'shunt was changed')).toBe(true);
  // The lead has it set aside after all; a second click at the same moment adds nothing.
  const aside = {
    runId: first!.runId,
    readingId: null,
    reason: 'the shunt was not changed',
  };
  const twice = await Promise.allSettled([
    setAside(fresh.lab, fresh.admin, aside),
    setAside(fresh.lab, fresh.admin, aside),
  ]);
  expect(twice.map(({ status }) => status).sort()).toEqual(['fulfilled', 'rejected']);
  const word = (await holdsView(fresh.lab, fresh.admin, { lotId, cellId: ids[6]! })).filter(
    ({ rule }) => rule === 'byHand',
  );
  expect(word).toHaveLength(1);
  expect((await line(6)).held).toBe('the shunt was not changed');
});

it('two who lift two holds of one cell at once leave none', async () => {
  await take(18, logOf(190, 900));
  const open = await holdsView(fresh.lab, fresh.admin, { lotId, cellId: ids[18]! });
  expect(open.length).toBeGreaterThanOrEqual(2);
  await Promise.all(
    open.map(({ id }) =>
      liftHold(fresh.lab, fresh.admin, { holdId: id, reason: 'both looked at it' }),
    ),
  );
  expect((await line(18)).held).toBeNull();
  // As it was for the tests below.
  await setAside(fresh.lab, fresh.admin, {
    runId: open[0]!.runId,
    readingId: null,
    reason: 'not of this lot',
  });
});

it('two results of a cell that disagree are both held, until the spoilt one is set aside', async () => {
  await take(7, logOf(106, 30));
  expect((await line(7)).held).toBeNull();
  const spoilt = await take(7, logOf(96, 31));
  const both = await line(7);
  expect(both.held).toMatch(/apart, E_n/);
  expect(both.holds.map(({ rule }) => rule)).toEqual(
    expect.arrayContaining(['disagrees', 'disagrees']),
  );
  await setAside(fresh.lab, fresh.admin, {
    runId: spoilt,
    readingId: null,
    reason: 'clip came off',
  });
  const after = await line(7);
  // What was set aside is no other side any more; a person's word stands.
  expect(after.holds.filter(({ rule }) => rule === 'byHand')).toHaveLength(1);
  expect(after).toMatchObject({ held: null, verdict: 'met' });
  expect(
    (
      await failure(
        setAside(fresh.lab, fresh.admin, { runId: spoilt, readingId: null, reason: 'again' }),
      )
    ).code,
  ).toBe('duplicate');
});

it('a swapped pair of cells is mended by moving both runs; both keep the history', async () => {
  const good = await take(8, logOf(95, 40));
  const weak = await take(9, logOf(107, 41));
  expect([(await line(8)).verdict, (await line(9)).verdict]).toEqual(['notMet', 'met']);
  const why = 'cells 8 and 9 were swapped in their holders';
  await moveRun(fresh.lab, fresh.admin, { runId: good, toCell: numbers[9]!, reason: why });
  await moveRun(fresh.lab, fresh.admin, {
    runId: weak,
    toCell: numbers[8]!.toLowerCase(),
    reason: why,
  });
  expect([(await line(8)).verdict, (await line(9)).verdict]).toEqual(['met', 'notMet']);
  expect((await line(8)).holds).toEqual([]);
  const page = await cellPage(fresh.lab, fresh.admin, { number: numbers[8]! });
  expect(page.runs.map(({ id }) => id)).toEqual([weak]);
  expect(page.runs[0]!.figures.length).toBeGreaterThan(3);
  for (const cell of [8, 9])
    expect(await movesOfCell(fresh.lab, fresh.admin, { cellId: ids[cell]! })).toHaveLength(2);
  expect(
    (
      await failure(
        moveRun(fresh.lab, fresh.admin, { runId: weak, toCell: numbers[8]!, reason: why }),
      )
    ).message,
  ).toMatch(/already/);
  const other = await claimedLot(fresh, 2);
  const [foreign] = await lotCells(fresh.lab, fresh.admin, { lotId: other.id });
  expect(
    (
      await failure(
        moveRun(fresh.lab, fresh.admin, { runId: weak, toCell: foreign!.number, reason: why }),
      )
    ).message,
  ).toMatch(/another cell model/);
});

it('hours without readings are no capacity, and change no other cell’s verdict', async () => {
  const before = await lines();
  await take(10, logOf(104.5, 50, { hole: [9000, 18_000] }));
  const stood = await line(10);
  expect(stood.bound).toBe('atLeast');
  expect(stood.capacityRawAh).toBeLessThan(106);
  expect(stood.verdict).not.toBe('notMet');
  const after = await lines();
  for (const [i, was] of before.entries())
    if (i !== 10)
      expect(after[i]).toMatchObject({ verdict: was.verdict, capacityAh: was.capacityAh });
});

it('a bound does not push an exact result aside, nor a worse bound a better one', async () => {
  await take(0, logOf(106, 51, { hole: [9000, 18_000] }));
  expect((await line(0)).bound).toBe('exact');
});

it('a counter that disagrees by more than 2 % holds the result', async () => {
  await take(11, logOf(106, 60, { counterFactor: 1.03 }));
  expect((await line(11)).held).toMatch(/counter and the integrated current differ by 3\.0 %/);
  await take(12, logOf(106, 61, { counterFactor: 1.01 }));
  expect((await line(12)).held).toBeNull();
});

it('a typed capacity is asked the same', async () => {
  const type = (cell: number, value: number, key: number) =>
    recordReadings(fresh.lab, fresh.admin, {
      lotId,
      readings: [
        {
          cellId: ids[cell]!,
          kind: 'capacity',
          value,
          decimals: 1,
          clientKey: `00000000-0000-4000-9000-${String(key).padStart(12, '0')}`,
        },
      ],
    });
  await type(13, 186, 1);
  expect((await line(13)).held).toMatch(/more than such a cell can hold/);
  await type(14, 105, 2);
  expect((await line(14)).held).toBeNull();
  const [reading] = await fresh.lab.store.readings.find({ cellId: ids[14]!, kind: 'capacity' });
  await setAside(fresh.lab, fresh.admin, {
    runId: null,
    readingId: reading!.id,
    reason: 'read off the wrong display',
  });
  expect((await line(14)).held).toBe('read off the wrong display');
});

it('results of an earlier method are computed again, once, to the same bits', async () => {
  const { lab } = fresh;
  const before = await lines();
  expect(await bringUpToDate(lab)).toEqual({ runs: 0, lots: 0, changed: [] });
  // As runs are after an update: computed from what another method read.
  await lab.store.runs.update({ inputHash: null }, { lotId });
  const { runs, changed } = await bringUpToDate(lab);
  expect(runs).toBeGreaterThan(10);
  expect(changed).toEqual([]);
  const after = await lines();
  after.forEach((line, i) =>
    expect(line).toMatchObject({
      capacityAh: before[i]!.capacityAh,
      verdict: before[i]!.verdict,
      held: before[i]!.held,
    }),
  );
  expect((await bringUpToDate(lab)).runs).toBe(0);
});

it('a lifted hold stays lifted when the claim changes and all is made new', async () => {
  const { lab, admin } = fresh;
  const lot = (await lab.store.lots.one({ id: lotId }))!;
  await liftHold(lab, admin, {
    holdId: (await holdsView(lab, admin, { lotId, cellId: ids[11]! })).find(
      ({ liftedAt }) => liftedAt === null,
    )!.id,
    reason: 'its counter is known to be off',
  });
  await changeClaim(lab, admin, {
    lotId,
    version: lot.version,
    claim: [
      {
        kind: 'capacity',
        value: 103,
        conditions: { rateIt: 0.2, cutoffV: 2.6, temperatureC: 25 },
      },
      { kind: 'acResistance', value: 0.5 },
    ],
  });
  expect((await line(11)).held).toBeNull();
  expect((await line(13)).held).toMatch(/more than such a cell can hold/);
});
