import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { arrivalCells, triageOfLot } from '../src/arrivals';
import { startList } from '../src/bench';
import { entryGrid, recordReadings } from '../src/evidence';
import { planBoard } from '../src/bench';
import { type BenchLab, benchLab, listEight, NOW } from '../testing/bench-lab';

describe('what a voltage was taken for', () => {
  let bench = {} as BenchLab;
  let keys = 0;
  beforeAll(async () => {
    bench = await benchLab(() => NOW);
  });
  afterAll(() => bench.fresh.close());
  const read = (
    cell: number,
    value: number | null,
    purpose?: 'arrival' | 'rest' | 'stock' | 'set',
  ) =>
    recordReadings(bench.fresh.lab, bench.technician, {
      lotId: bench.lotId,
      readings: [
        {
          cellId: bench.cells[cell]!.id,
          kind: 'openCircuitVoltage',
          value,
          decimals: 3,
          purpose,
          clientKey: `00000000-0000-4000-8000-0000000002${String(keys++).padStart(2, '0')}`,
        },
      ],
    });
  const arrivalOf = (cell: number) =>
    bench.fresh.lab.store.arrivals.cells.one({ cellId: bench.cells[cell]!.id });
  const gateOf = async (cell: number) =>
    (await arrivalCells(bench.fresh.lab, bench.technician, { lotId: bench.lotId })).find(
      ({ id }) => id === bench.cells[cell]!.id,
    )!.gate;

  it('an arrival reading is one where nobody says otherwise before the first run', async () => {
    const rows = await bench.fresh.lab.store.readings.find({ lotId: bench.lotId });
    expect(new Set(rows.map(({ purpose }) => purpose))).toEqual(new Set(['arrival']));
  });

  it('a rest, store or set reading changes neither triage nor the lot’s first voltages', async () => {
    const before = await arrivalOf(0);
    const triage = () => triageOfLot(bench.fresh.lab, bench.technician, { lotId: bench.lotId });
    const lotBefore = JSON.stringify(await triage());
    for (const purpose of ['rest', 'stock', 'set'] as const) await read(0, 1.2, purpose);
    expect(await arrivalOf(0)).toEqual(before);
    expect(JSON.stringify(await triage())).toBe(lotBefore);
    expect(await gateOf(0)).toBe('ready');
  });

  it('an arrival reading of the same size shuts the gate', async () => {
    await read(9, 1.2, 'arrival');
    expect(await arrivalOf(9)).toMatchObject({ newestV: 1.2, lowestV: 1.2, firstV: 3.29 });
    expect(await gateOf(9)).not.toBe('ready');
  });

  it('what a run begins from is the newest voltage, whatever it was read for', async () => {
    await listEight(bench);
    const { lab } = bench.fresh;
    const board = await planBoard(lab, bench.technician, {});
    const job = board.jobs.find(({ cell }) => cell === bench.cells[2]!.number)!;
    const voltage = async () =>
      (await startList(lab, bench.technician, { jobId: job.id, channelId: bench.channels[0]! }))
        .voltageV;
    expect(await voltage()).toBe(3.29);
    await read(2, 3.31, 'stock');
    expect(await voltage()).toBe(3.31);
    // Taking the store’s reading back leaves that of arrival standing.
    await read(2, null, 'stock');
    expect(await voltage()).toBe(3.29);
  });

  it('the grid keeps them apart, and other quantities together', async () => {
    await read(3, 3.331, 'rest');
    const row = (await entryGrid(bench.fresh.lab, bench.technician, { lotId: bench.lotId })).find(
      ({ id }) => id === bench.cells[3]!.id,
    )!;
    expect(row.voltages.arrival!.value).toBe(3.29);
    expect(row.voltages.rest!.value).toBe(3.331);
    expect(row.voltages.stock).toBeUndefined();
  });
});
