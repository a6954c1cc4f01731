import { recordDischarge, rowsAsCsv, typicalCell } from '@dusk-tally/core/simulator';
import { seededRandom } from '@dusk-tally/core/statistics';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import {
  addChannel,
  addComparison,
  addInstrument,
  changeChannel,
  importLog,
  keepControlCell,
  listChannels,
  lookAtChannel,
  metersView,
  studyGauge,
} from '../src/evidence';
import { issueReport, reportPage } from '../src/reports';
import { lotCells } from '../src/verdicts';
import { today } from '../src/today';
import { failure } from '../testing/failure';
import { claimedLot, type FreshLab, freshLab } from '../testing/fresh-lab';

const tester = {
  kind: 'tester' as const,
  accuracy: {
    currentGainPct: 0.2,
    currentOffsetA: 0.001,
    voltageGainPct: 0.02,
    voltageOffsetV: 0.001,
    timePpm: 20,
  },
};

describe('channels and what repeats say of them', () => {
  let fresh: FreshLab;
  let lot: Awaited<ReturnType<typeof claimedLot>>;
  let cells: Awaited<ReturnType<typeof lotCells>>;
  let channels: number[];
  let seed = 1;
  const random = seededRandom(5);

  /** One discharge of a cell on a channel that reads `gainPct` high. */
  const run = (
    cell: number,
    channel: number,
    { gainPct = 0, holdsAh = 104.6, currentA = 20.8, ambientC = 24, repeatsPct = 0.05 } = {},
  ) => {
    const rows = recordDischarge(
      { ...typicalCell('LFP', 104), capacityAh: holdsAh },
      {
        currentA,
        cutoffV: 2.5,
        intervalS: 60,
        restBeforeS: 3600,
        restAfterS: 0,
        ambientC,
        seed: seed++,
        channel: { currentGainPct: gainPct + repeatsPct * random.normal() },
      },
    );
    return importLog(fresh.lab, fresh.admin, {
      lotId: lot.id,
      cellId: cells[cell]!.id,
      channelId: channels[channel]!,
      fileName: `${seed}.csv`,
      bytes: new TextEncoder().encode(rowsAsCsv(rows)),
    });
  };
  const line = async (cell: number) =>
    (await lotCells(fresh.lab, fresh.admin, { lotId: lot.id }))[cell]!;
  const view = () => metersView(fresh.lab, fresh.admin, {});

  beforeAll(async () => {
    fresh = await freshLab();
    lot = await claimedLot(fresh, 8, 104);
    cells = await lotCells(fresh.lab, fresh.admin, { lotId: lot.id });
    const bank = await addInstrument(fresh.lab, fresh.admin, {
      ...tester,
      name: 'Bank',
      calibratedOn: null,
      dueOn: null,
    });
    for (const name of ['2', '3', '4', '5'])
      await addChannel(fresh.lab, fresh.admin, { instrumentId: bank.id, name });
    channels = (await listChannels(fresh.lab, fresh.admin, {})).map((channel) => channel.id);
  });
  afterAll(() => fresh.close());

  it('a new tester has its first channel; the name of a second one must be new', async () => {
    const listed = await listChannels(fresh.lab, fresh.admin, {});
    expect(listed.map((channel) => channel.title)).toEqual(
      ['1', '2', '3', '4', '5'].map((name) => `Bank, ${name}`),
    );
    const again = await failure(
      addChannel(fresh.lab, fresh.admin, { instrumentId: listed[0]!.instrumentId, name: '3' }),
    );
    expect(again).toMatchObject({ code: 'duplicate' });
    const meter = await addInstrument(fresh.lab, fresh.admin, {
      kind: 'voltmeter',
      name: 'Hand meter',
      calibratedOn: null,
      dueOn: null,
      accuracy: { gainPct: 0.05, offset: 0.001 },
    });
    expect(
      (await failure(addChannel(fresh.lab, fresh.admin, { instrumentId: meter.id, name: '1' })))
        .message,
    ).toContain('only testers have channels');
  });

  it('without repeats nothing is known, and says what to do', async () => {
    const state = await view();
    expect(state.reason).toContain('No cell ran more than once');
    expect(state.channels.every((channel) => channel.effect === null)).toBe(true);
  });

  it('a cell tested on the biased channel looks good until control cells find the bias', async () => {
    await run(2, 1, { gainPct: 3.5, holdsAh: 101.5 });
    const before = await line(2);
    expect(before.capacityRawAh).toBeGreaterThan(104);
    expect(before.verdict).not.toBe('notMet');
    for (const number of [cells[0]!.number, cells[1]!.number])
      await keepControlCell(fresh.lab, fresh.admin, { number, keep: true });
    for (let round = 0; round < 3; round++)
      for (const cell of [0, 1])
        for (let channel = 0; channel < 5; channel++)
          await run(cell, channel, { gainPct: channel === 1 ? 3.5 : 0, holdsAh: 105 + cell });
    const state = await view();
    const biased = state.channels[1]!;
    expect(biased.effect!.corrects).toBe(true);
    expect(biased.effect!.shrunk).toBeGreaterThan(0.033);
    expect(biased.effect!.shrunk).toBeLessThan(0.037);
    expect(state.fitted).toMatchObject({ cells: 2, results: 30 });
    const after = await line(2);
    expect(after.capacityRawAh).toBe(before.capacityRawAh);
    expect(after.capacityAh! / before.capacityAh!).toBeCloseTo(1 / 1.035, 2);
    expect(after.verdict).toBe('notMet');
    expect(after.corrections.map(({ text }) => text).join(' ')).toMatch(
      /Bank, 2 reads 3\.[4-6]\d % high/,
    );
    // A good cell on a good channel keeps what it had.
    await run(3, 0, { holdsAh: 106.5 });
    expect(await line(3)).toMatchObject({ verdict: 'met', held: null });
  });

  it('a crossed gauge study comes from the same repeats', async () => {
    const numbers = [cells[0]!.number, cells[1]!.number];
    const good = [channels[0]!, channels[2]!, channels[3]!, channels[4]!];
    const { study } = await studyGauge(fresh.lab, fresh.admin, {
      cells: numbers,
      channelIds: good,
    });
    expect(study).toMatchObject({ cells: 2, channels: 4, repeats: 3 });
    const all = await studyGauge(fresh.lab, fresh.admin, { cells: numbers, channelIds: channels });
    const between = (s: typeof study) =>
      s!.sources.find((source) => source.name === 'reproducibility')!.sd;
    expect(between(all.study)).toBeGreaterThan(5 * between(study));
    const one = await studyGauge(fresh.lab, fresh.admin, {
      cells: numbers.slice(1),
      channelIds: good,
    });
    expect(one.reason).toContain('at least 2 cells');
  });

  it('a channel that drifts is held back from its last good point until a lead looked', async () => {
    for (const cell of [0, 1]) await run(cell, 3, { holdsAh: 105 + cell });
    await run(4, 3, { gainPct: 1.4, holdsAh: 105 });
    // Tested before on a sound channel, and once more on the one that drifts.
    await run(5, 0, { holdsAh: 106.5 });
    await run(5, 3, { gainPct: 1.4, holdsAh: 106.5 });
    expect((await line(4)).held).toBeNull();
    for (const cell of [0, 1]) await run(cell, 3, { gainPct: 1.5, holdsAh: 105 + cell });
    const held = await line(4);
    expect(held.held).toContain('Bank, 4 is held back');
    expect(held).toMatchObject({ verdict: null, grade: null });
    expect(held.waitingFor).toEqual(['a look at its channel']);
    // What drifted has no voice against the sound result: that one counts, and is not out of line.
    const sound = await line(5);
    expect(sound).toMatchObject({ verdict: 'met', held: null });
    expect(Math.abs(sound.capacityRawAh! / 106.5 - 1)).toBeLessThan(0.008);
    expect(
      await fresh.lab.store.results.holds.find({ cellId: cells[5]!.id, rule: 'outOfLine' }),
    ).toEqual([]);
    // It waits on Today, and no report gives the result out.
    expect((await today(fresh.lab, fresh.admin, {})).items).toContainEqual(
      expect.objectContaining({ kind: 'held', lot: { code: lot.code, title: lot.title } }),
    );
    const refused = await failure(
      issueReport(fresh.lab, fresh.admin, {
        lotId: lot.id,
        cellIds: [cells[3]!.id, cells[4]!.id],
        customer: 'Tidewright Buoys',
      }),
    );
    expect(refused.message).toContain(`${cells[4]!.number} (Bank, 4 is held back`);
    const report = await issueReport(fresh.lab, fresh.admin, {
      lotId: lot.id,
      cellIds: [cells[3]!.id],
      customer: 'Tidewright Buoys',
    });
    const { snapshot } = await reportPage(fresh.lab, fresh.admin, { number: report.number });
    const [free] = snapshot.items;
    expect(free!.capacity!.value).toBeGreaterThan(104);
    expect(free!.testedOn).not.toBeNull();
    expect(free!.curve!.ah.length).toBeGreaterThan(20);
    const drifting = (await view()).channels[3]!;
    expect(drifting.held!.reason).toContain(cells[0]!.number);
    expect(drifting.chart!.points.some((point) => point.signal !== null)).toBe(true);
    const technician = { ...fresh.admin, role: 'technician' as const };
    expect(
      (
        await failure(
          lookAtChannel(fresh.lab, technician, { channelId: channels[3]!, note: 'loose lug' }),
        )
      ).code,
    ).toBe('notAllowed');
    await lookAtChannel(fresh.lab, fresh.admin, {
      channelId: channels[3]!,
      note: 'loose lug, tightened',
    });
    expect((await line(4)).held).toBeNull();
    expect((await line(4)).verdict).not.toBeNull();
    expect((await view()).channels[3]!.chart!.looks[0]!.note).toBe('loose lug, tightened');
  });

  it('runs of one cell at several rates teach what its model does', async () => {
    await run(5, 0, { currentA: 20.8, holdsAh: 105 });
    for (const currentA of [31.2, 52]) await run(5, 0, { currentA, holdsAh: 105 });
    const learnt = (await line(5)).corrections.find(({ kind }) => kind === 'rate')!;
    expect(learnt.text).toContain('of this model');
  });

  it('a table of reference voltages moves where the cut-off is reached', async () => {
    await run(6, 2, { holdsAh: 105, repeatsPct: 0 });
    const plain = (await line(6)).capacityRawAh!;
    const channel = (await listChannels(fresh.lab, fresh.admin, {}))[2]!;
    await changeChannel(fresh.lab, fresh.admin, {
      reason: 'as the paper says',
      id: channel.id,
      version: channel.version,
      name: channel.name,
      voltageTable: [
        { shown: 2, reference: 1.95 },
        { shown: 4, reference: 3.95 },
      ],
    });
    const late = await failure(
      changeChannel(fresh.lab, fresh.admin, {
        reason: 'as the paper says',
        id: channel.id,
        version: channel.version,
        name: channel.name,
      }),
    );
    expect(late).toMatchObject({ code: 'conflict' });
    await run(7, 2, { holdsAh: 105, repeatsPct: 0 });
    // It shows 50 mV too much: the true cut-off was reached earlier.
    expect((await line(7)).capacityRawAh!).toBeLessThan(plain - 0.02);
  });

  it('meters read side by side are judged by pairs and kept', async () => {
    await addComparison(fresh.lab, fresh.admin, {
      title: 'Cell 3 at rest',
      unit: 'V',
      readings: [
        { meter: 'Bank, 1', value: 3.291, expanded: 0.002 },
        { meter: 'Hand meter', value: 3.2979, expanded: 0.002 },
      ],
    });
    const [kept] = (await view()).comparisons;
    expect(kept!.pairs[0]!.agrees).toBe(false);
    expect(
      (
        await failure(
          addComparison(fresh.lab, fresh.admin, {
            title: 'one',
            unit: 'V',
            readings: [{ meter: 'A', value: 1, expanded: 0.1 }],
          }),
        )
      ).message,
    ).toContain('at least two meters');
  });
});
