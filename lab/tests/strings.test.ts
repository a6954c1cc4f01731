import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { saveStringTest, stringLots, stringOfRun, stringTest, stringTests } from '../src/bench';
import { importLog, recordReadings } from '../src/evidence';
import { cellPage, lotCells, runPage } from '../src/verdicts';
import { failure } from '../testing/failure';
import { claimedLot, type FreshLab, freshLab } from '../testing/fresh-lab';

/** Four cells, two loads of four minutes each; the third sags three times as far. */
function stringLog(): Uint8Array<ArrayBuffer> {
  const mohms = [0.6, 0.62, 1.9, 0.61];
  const rows = ['time_s,current_A,cell1_V,cell2_V,cell3_V,cell4_V'];
  for (let t = 0; t <= 600; t += 5) {
    const amps = t < 120 ? 0 : t < 360 ? 30 : 60;
    const volts = mohms.map((mohm) => (3.3 - (t / 600) * 0.02 - (mohm / 1000) * amps).toFixed(4));
    rows.push([t, (-amps).toFixed(2), ...volts].join(','));
  }
  return new TextEncoder().encode(`${rows.join('\n')}\n`);
}

describe('load tests of strings', () => {
  let fresh: FreshLab;
  let lotId: number;
  let numbers: string[];
  let ids: number[];

  beforeAll(async () => {
    fresh = await freshLab();
    lotId = (await claimedLot(fresh, 20)).id;
    const cells = await lotCells(fresh.lab, fresh.admin, { lotId });
    numbers = cells.map((cell) => cell.number);
    ids = cells.map((cell) => cell.id);
  });
  afterAll(() => fresh.close());

  const readings = {
    stateOfChargePct: 70,
    lowA: 30,
    highA: 60,
    lowV: [3.28, 3.281, 3.279, 3.28, 3.28, 3.281],
    highV: [3.262, 3.263, 3.261, 3.262, 3.226, 3.263],
    jointC: [24, 25, 33, 25, null, 24],
  };
  const save = (more: Partial<Parameters<typeof saveStringTest>[2]> = {}) =>
    saveStringTest(fresh.lab, fresh.admin, {
      lotId,
      title: 'Six in a row',
      cells: numbers.slice(0, 6),
      steps: [readings],
      ...more,
    });
  const view = (id: number) => stringTest(fresh.lab, fresh.admin, { id });
  const doubts = async (place: number) =>
    (await cellPage(fresh.lab, fresh.admin, { number: numbers[place]! })).doubts;

  it('is kept with its cells and comes back as it was', async () => {
    const { id } = await save({ torqueNm: 5, cableMm2: 16, cableM: 1.5 });
    const kept = await view(id);
    expect(kept.row).toMatchObject({ title: 'Six in a row', torqueNm: 5, runId: null });
    expect(kept.row.steps).toEqual([readings]);
    expect(kept.cells.map(({ number }) => number)).toEqual(numbers.slice(0, 6));
    // A joint ran hot: it stood no load.
    expect(kept.stood).toBeNull();
    const line = (await stringTests(fresh.lab, fresh.admin, {})).find((one) => one.id === id)!;
    expect(line).toMatchObject({ cells: 6, states: [70], hotJoints: 1, standOut: [numbers[4]] });
  });
  it.each([
    ['voltages no cell has', { steps: [{ ...readings, lowV: [48, 3, 3, 3, 3, 3] }] }, /−1 to 10 V/],
    ['a negative voltage', { steps: [{ ...readings, highV: [-5, 3, 3, 3, 3, 3] }] }, /−1 to 10 V/],
    ['neither cells nor readings', { cells: [], steps: [] }, /at least/],
    ['a cell that stands in it twice', { cells: [] as string[] }, null],
  ])('refuses %s', async (_what, more, message) => {
    if (message === null) {
      const twice = { cells: [...numbers.slice(0, 5), numbers[0]!] };
      expect((await failure(save(twice))).message).toContain('stands in the string twice');
    } else expect((await failure(save(more))).message).toMatch(message);
  });
  it('refuses cells of two lots, naming both', async () => {
    const other = await claimedLot(fresh, 1);
    const [stranger] = await fresh.lab.store.cells.find({ lotId: other.id });
    const cells = [...numbers.slice(0, 5), stranger!.number];
    expect((await failure(save({ cells }))).message).toBe(
      `${stranger!.number} is of another lot than ${numbers[0]}: expected the cells of one lot.`,
    );
  });
  it('is of the lot its cells are of, whatever was chosen', async () => {
    const other = await claimedLot(fresh, 2);
    const { id } = await save({ title: 'Chosen wrongly', lotId: other.id });
    expect((await view(id)).lot.id).toBe(lotId);
  });
  it('shows on the page of the cell that sags, and of one that does not', async () => {
    const bad = await doubts(4);
    expect(bad.inStrings[0]).toMatchObject({ place: 5, standsOut: true, badNeighbours: [] });
    expect(bad.inStrings[0]!.mohm).toBeCloseTo(1.8, 9);
    expect(bad.joint).not.toBeNull();
    const good = await doubts(1);
    expect(good.inStrings[0]).toMatchObject({ place: 2, standsOut: false });
    expect(good.joint).toBeNull();
    expect((await doubts(10)).inStrings).toEqual([]);
  });
  it('names the neighbour that stands out too: they share a bar', async () => {
    await save({
      title: 'Two beside each other',
      cells: numbers.slice(6, 12),
      steps: [{ ...readings, highV: [3.262, 3.263, 3.225, 3.226, 3.262, 3.263], jointC: [] }],
    });
    const { inStrings, joint } = await doubts(8);
    expect(inStrings[0]!.badNeighbours).toEqual([numbers[9]]);
    expect(joint!.suspect).toBe('joint');
  });
  it('the highest load it stood counts in It of the claim', async () => {
    const step = { ...readings, highV: readings.highV.map(() => 3.26), jointC: [24, 24.5] };
    const { id } = await save({ steps: [step, { ...step, lowA: 60, highA: 104 }] });
    expect((await view(id)).stood).toEqual({ amps: 104, it: 1 });
  });
  it('refuses cells that are not here, stand twice or are too few, and stores nothing', async () => {
    const before = (await stringTests(fresh.lab, fresh.admin, {})).length;
    const refused = async (more: Parameters<typeof save>[0]) => (await failure(save(more))).message;
    expect(await refused({ cells: ['X-9999', ...numbers.slice(0, 5)] })).toContain(
      'no cell X-9999',
    );
    expect(await refused({ cells: Array.from({ length: 6 }, () => numbers[0]!) })).toContain(
      'twice',
    );
    const small = [numbers[0]!.toLowerCase(), ...numbers.slice(0, 5)];
    expect(await refused({ cells: small })).toContain('twice');
    expect(await refused({ cells: numbers.slice(0, 5) })).toContain('found 6 and 5');
    expect(await refused({ cells: [], steps: [] })).toContain('at least one state of charge');
    expect(await refused({ steps: [{ ...readings, highA: 30 }] })).toContain('second load');
    expect(await refused({ title: ' ' })).toContain('name for the string');
    expect((await stringTests(fresh.lab, fresh.admin, {})).length).toBe(before);
  });
  it('two people at once: the second is told, and nothing of the first is lost', async () => {
    const { id } = await save({ title: 'Shared' });
    const { version } = (await view(id)).row;
    await save({ id, version, title: 'Changed first' });
    const late = await failure(save({ id, version, title: 'Changed second' }));
    expect(late.message).toContain('Someone changed this load test meanwhile');
    expect((await view(id)).row.title).toBe('Changed first');
  });
  it('says which cells a log’s string is made of, once', async () => {
    const bytes = stringLog();
    const { runId } = await importLog(fresh.lab, fresh.admin, {
      lotId,
      cellId: ids[12]!,
      fileName: 'string.csv',
      bytes,
    });
    const { string } = await stringOfRun(fresh.lab, fresh.admin, { runId });
    const cells = numbers.slice(12, 12 + string.cells.length);
    const wrong = await failure(save({ runId, cells: cells.slice(1), steps: [] }));
    expect(wrong.message).toContain('same number of cells');
    const { id } = await save({ runId, cells, steps: [], title: 'From a log' });
    const page = await runPage(fresh.lab, fresh.admin, { id: runId });
    expect(page.stringTest).toEqual({ id, cells });
    const { inStrings } = await doubts(13);
    expect(inStrings[0]!.mohm).toBe(string.cells[1]!.mohm);
    expect(inStrings[0]!.expandedMohm).toBe(string.cells[1]!.expandedMohm);
    expect((await failure(save({ runId, cells, steps: [] }))).message).toContain('already');
    const plain = await failure(stringOfRun(fresh.lab, fresh.admin, { runId: 999_999 }));
    expect(plain.message).toContain('not here');
  });
  it('compares the pack with its weakest cell once every cell was measured', async () => {
    const { id } = await save({ title: 'Pack', packAh: 99, packAhU: 0.5, balancedAh: 0 });
    expect((await view(id)).pack).toBeNull();
    await recordReadings(fresh.lab, fresh.admin, {
      lotId,
      readings: [104, 103, 102, 100, 105, 104].map((value, i) => ({
        cellId: ids[i]!,
        kind: 'capacity' as const,
        value,
        decimals: 1,
        clientKey: `00000000-0000-4000-9000-${String(i).padStart(12, '0')}`,
      })),
    });
    const { pack } = await view(id);
    expect(pack!.sentence).toContain(`${numbers[3]} gives 100.0 Ah`);
    expect(pack!.says).toBe('agrees');
    const { version } = (await view(id)).row;
    await save({ id, version, title: 'Pack', packAh: 110, packAhU: 0.5 });
    expect((await view(id)).pack).toMatchObject({ says: 'more' });
  });
  it('lists lots with the torque of their data sheet', async () => {
    const lots = await stringLots(fresh.lab, fresh.admin, {});
    expect(lots.map((lot) => lot.id)).toContain(lotId);
    const model = (await fresh.lab.store.cellModels.one({
      id: (await fresh.lab.store.lots.one({ id: lotId }))!.modelId,
    }))!;
    expect(lots.find((lot) => lot.id === lotId)!.torqueNm).toBe(model.terminalTorqueNm);
  });
});
