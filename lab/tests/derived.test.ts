import { recordDischarge, rowsAsCsv, typicalCell } from '@dusk-tally/core/simulator';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import {
  addTemplate,
  changeClaim,
  changeOrder,
  completeModel,
  labelCell,
  useTemplate,
} from '../src/arrivals';
import { addInstrument, changeChannel, importLog, listChannels } from '../src/evidence';
import { lotCells, moveRun, movesOfLot } from '../src/verdicts';
import { claimedLot, type FreshLab, freshLab } from '../testing/fresh-lab';
import { setHoldLimits } from '../testing/limits';

describe('each kind of change reaches all that reads it, and nothing else', () => {
  let fresh: FreshLab;
  let lot: Awaited<ReturnType<typeof claimedLot>>;
  let other: Awaited<ReturnType<typeof claimedLot>>;
  let cellId: number;
  let channelId: number;
  const { stringify } = JSON;

  const run = async () => (await fresh.lab.store.runs.find({ cellId }))[0]!;
  const newest = async () =>
    (
      await fresh.lab.store.figures.find(
        { cellId, quantity: 'capacity' },
        { order: [['id', 'DESC']], limit: 1 },
      )
    )[0]!;
  const computed = () => fresh.lab.store.figures.count({ cellId, quantity: 'capacity' });
  const item = async (kind: string) =>
    (await fresh.lab.store.verdicts.assessments.one({ cellId, item: kind as 'capacity' }))!;
  const othersRows = async () =>
    stringify([
      await fresh.lab.store.verdicts.standings.find({ lotId: other.id }),
      await fresh.lab.store.verdicts.assessments.find({ lotId: other.id }),
      await fresh.lab.store.figures.find({ lotId: other.id }, { columns: ['id'] }),
    ]);
  const claim = async (more: object[] = [], capacityAh = 104) =>
    changeClaim(fresh.lab, fresh.admin, {
      lotId: lot.id,
      version: (await fresh.lab.store.lots.one({ id: lot.id }))!.version,
      claim: [
        { kind: 'capacity', value: capacityAh, conditions: { rateIt: 0.2, cutoffV: 2.5 } },
        ...more,
      ] as never,
    });
  const calibrate = async (voltageTable: { shown: number; reference: number }[]) => {
    const row = (await fresh.lab.store.meters.channels.one({ id: channelId }))!;
    await changeChannel(fresh.lab, fresh.admin, {
      reason: 'as the paper says',
      id: row.id,
      version: row.version,
      name: row.name,
      voltageTable,
    });
  };

  beforeAll(async () => {
    fresh = await freshLab(() => new Date('2026-10-01T08:00:00Z'));
    lot = await claimedLot(fresh, 3);
    other = await claimedLot(fresh, 3);
    const instrument = await addInstrument(fresh.lab, fresh.admin, {
      kind: 'tester',
      name: 'Bank',
      calibratedOn: null,
      dueOn: null,
      accuracy: {
        currentGainPct: 0.2,
        currentOffsetA: 0.002,
        voltageGainPct: 0.05,
        voltageOffsetV: 0.003,
        timePpm: 50,
      },
    });
    channelId = (await listChannels(fresh.lab, fresh.admin, {})).find(
      (channel) => channel.instrumentId === instrument.id,
    )!.id;
    for (const { id } of [lot, other]) {
      const [cell] = await lotCells(fresh.lab, fresh.admin, { lotId: id });
      if (id === lot.id) cellId = cell!.id;
      const rows = recordDischarge(typicalCell('LFP', 106), {
        currentA: 20.8,
        cutoffV: 2.45,
        intervalS: 20,
        restBeforeS: 3700,
        restAfterS: 60,
        ambientC: 24,
        seed: id,
      });
      await importLog(fresh.lab, fresh.admin, {
        lotId: id,
        cellId: cell!.id,
        channelId: id === lot.id ? channelId : null,
        fileName: `${id}.csv`,
        bytes: new TextEncoder().encode(rowsAsCsv(rows)),
      });
    }
  });
  afterAll(() => fresh.close());

  it('a channel’s voltage table: figures, findings and verdict; taken away again to the same bits', async () => {
    const [before, others] = [await newest(), await othersRows()];
    const codes = async () => (await run()).summary.findings.map(({ code }) => code);
    expect(await codes()).not.toContain('voltage-corrected');
    await calibrate([
      { shown: 2, reference: 2.03 },
      { shown: 4, reference: 4.03 },
    ]);
    const through = await newest();
    expect(through.value).toBeGreaterThan(before.value);
    expect(await codes()).toContain('voltage-corrected');
    expect((await item('capacity')).value).toBeGreaterThan(before.value);
    await calibrate([]);
    const after = await newest();
    expect(after.id).toBeGreaterThan(through.id);
    expect([after.value, after.standardUncertainty, after.inputHash]).toEqual([
      before.value,
      before.standardUncertainty,
      before.inputHash,
    ]);
    expect(await codes()).not.toContain('voltage-corrected');
    expect(await othersRows()).toBe(others);
    // The act was about a channel, not about the lot: the lot says what it moved, and why.
    const [move, ...more] = await movesOfLot(fresh.lab, fresh.admin, { lotId: lot.id });
    expect(more).toEqual([]);
    expect(move).toMatchObject({ day: '2026-10-01', causes: ['channelCalibration'], fromLots: [] });
    expect(move!.items).toContainEqual(expect.objectContaining({ item: 'capacity', cells: 1 }));
    expect(move!.items[0]!.most).toBeCloseTo(through.value / before.value - 1, 6);
    expect(move!.crossed, 'what came back is not named').toEqual([]);
    expect(await movesOfLot(fresh.lab, fresh.admin, { lotId: other.id })).toEqual([]);
  });

  it('a claim’s rated capacity makes runs new; a claim that says the same makes nothing new', async () => {
    const [count, hash, others] = [await computed(), (await run()).inputHash, await othersRows()];
    await claim([], 105);
    expect(await computed()).toBe(count + 1);
    expect((await run()).inputHash).not.toBe(hash);
    expect(await item('capacity')).toMatchObject({ low: 105 });
    await claim([], 105);
    expect(await computed()).toBe(count + 1);
    await claim();
    expect((await run()).inputHash).toBe(hash);
    expect(await othersRows()).toBe(others);
  });

  it('the day of arrival and a cell’s code reach the items that read them', async () => {
    await claim([
      { kind: 'condition', text: 'new', conditions: {} },
      { kind: 'producedAfter', text: '2026-01-01', conditions: {} },
    ]);
    expect((await item('producedAfter')).state).toBe('waitingFor');
    const cell = (await fresh.lab.store.cells.one({ id: cellId }))!;
    const template = await addTemplate(fresh.lab, fresh.admin, {
      name: 'Day first',
      pattern: '{year:4}-{month:2}-{day:2}-{serial:4}',
    });
    await labelCell(fresh.lab, fresh.admin, {
      cellId,
      version: cell.version,
      label: '2025-02-10-0001',
    });
    expect(await item('producedAfter')).toMatchObject({ state: 'notMet' });
    const order = async (arrivedOn: string) => {
      const { title, version } = (await fresh.lab.store.lots.one({ id: lot.id }))!;
      await changeOrder(fresh.lab, fresh.admin, {
        reason: 'as the paper says',
        lotId: lot.id,
        version,
        title,
        arrivedOn,
      });
    };
    await order('2025-06-01');
    expect((await item('condition')).state).not.toBe('contradicted');
    await order('2026-06-01');
    expect(await item('condition')).toMatchObject({ state: 'contradicted' });
    // A rule that is put away reads no code any more.
    await useTemplate(fresh.lab, fresh.admin, {
      id: template.id,
      version: template.version,
      active: false,
    });
    expect((await item('producedAfter')).state).toBe('waitingFor');
  });

  it('a model’s sheet and the limits of holds reach the cells of every lot that reads them', async () => {
    const model = (await fresh.lab.store.cellModels.one({ id: lot.modelId }))!;
    await completeModel(fresh.lab, fresh.admin, {
      reason: 'as the paper says',
      id: model.id,
      version: model.version,
      sheet: { massG: 1950 },
    } as never);
    expect(await item('mass')).toMatchObject({ state: 'waitingFor' });
    const moves = () => movesOfLot(fresh.lab, fresh.admin, { lotId: lot.id });
    const { length } = await moves();
    await claim([], 100);
    expect(await moves(), 'what is done to the lot itself is no news to it').toHaveLength(length);
    await setHoldLimits(fresh, { understated: 1.02 });
    expect(await item('capacity')).toMatchObject({ state: 'held' });
    const number = (await fresh.lab.store.cells.one({ id: cellId }))!.number;
    expect((await moves())[0]).toMatchObject({
      causes: ['holdLimits'],
      crossed: [{ cell: number, item: 'capacity', from: 'met', to: 'held' }],
    });
    await setHoldLimits(fresh, { understated: 1.2 });
    expect((await item('capacity')).state).toBe('met');
    expect((await moves())[0]!.crossed).toEqual([]);
  });

  it('a run that is moved away reaches the fits its cell was in', async () => {
    const { meters } = fresh.lab.store;
    const repeated = () =>
      fresh.lab.store.transaction((transaction) => meters.anyRepeated([cellId], transaction));
    expect(await repeated()).toBe(false);
    const [, second] = await lotCells(fresh.lab, fresh.admin, { lotId: lot.id });
    await moveRun(fresh.lab, fresh.admin, {
      runId: (await run()).id,
      toCell: second!.number,
      reason: 'the labels were swapped',
    });
    expect(await repeated()).toBe(true);
    expect((await item('capacity')).state).toBe('waitingFor');
  });
});
