import { randomUUID } from 'node:crypto';
import type { LifeState } from '@dusk-tally/core/stock';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { recordInspection } from '../src/arrivals';
import { finishByHand, planBoard, readAmbient, startJob, startList } from '../src/bench';
import { recordReadings } from '../src/evidence';
import { cellPage, lotCells } from '../src/verdicts';
import { type BenchLab, benchLab, listEight, NOW } from '../testing/bench-lab';

describe('a cell’s life', () => {
  let bench = {} as BenchLab;
  let clock = NOW;
  const later = (minutes: number) => (clock = new Date(clock.getTime() + minutes * 60_000));
  const lab = () => bench.fresh.lab;
  beforeAll(async () => {
    bench = await benchLab(() => clock);
  });
  afterAll(() => bench.fresh.close());
  const life = async (cell: number) =>
    (await cellPage(lab(), bench.technician, { number: bench.cells[cell]!.number })).life;
  const states = async (cell: number): Promise<LifeState[]> =>
    (await life(cell)).map(({ state }) => state);
  /** The lot’s table and each cell’s page say the same. */
  const agree = async () => {
    const lines = await lotCells(lab(), bench.technician, { lotId: bench.lotId });
    for (const [i, line] of lines.entries())
      expect([line.number, (await states(i)).at(-1)]).toEqual([line.number, line.life]);
  };

  it('begins ready for the bench once inspected and read', async () => {
    expect((await states(0)).at(-1)).toBe('ready');
    await agree();
  });

  it('is in quarantine while a finding that stops it stands, and says through whom', async () => {
    later(10);
    await recordInspection(lab(), bench.technician, {
      lotId: bench.lotId,
      clientKey: randomUUID(),
      marks: [{ act: 'finding', cellIds: [bench.cells[1]!.id], code: 'leaking', note: null }],
    });
    expect((await life(1)).at(-1)).toEqual({ state: 'quarantine', since: clock, by: 'Tamsin' });
    expect((await states(2)).at(-1)).toBe('ready');
    await agree();
  });

  it('is on the bench from start to end, and graded once it was judged', async () => {
    later(10);
    await listEight({ ...bench, cells: [bench.cells[0]!, ...bench.cells.slice(2)] });
    await readAmbient(lab(), bench.technician, { celsius: 24 });
    const job = (await planBoard(lab(), bench.technician, {})).jobs.find(
      ({ cell }) => cell === bench.cells[0]!.number,
    )!;
    const where = { jobId: job.id, channelId: bench.channels[0]! };
    const { questions } = await startList(lab(), bench.technician, where);
    const { benchRunId } = await startJob(lab(), bench.technician, {
      ...where,
      answers: questions.map(({ question }) => ({ question, answeredFor: 'cell' as const })),
    });
    const started = clock;
    expect((await life(0)).at(-1)).toEqual({ state: 'onBench', since: started, by: 'Tamsin' });
    await agree();
    later(600);
    await finishByHand(lab(), bench.technician, { benchRunId, note: 'typed total' });
    expect((await states(0)).slice(-2)).toEqual(['onBench', 'ready']);
    later(5);
    await recordReadings(lab(), bench.technician, {
      lotId: bench.lotId,
      readings: [
        {
          cellId: bench.cells[0]!.id,
          kind: 'capacity',
          value: 6.05,
          decimals: 2,
          clientKey: randomUUID(),
        },
        {
          cellId: bench.cells[0]!.id,
          kind: 'acResistance',
          value: 1.2,
          decimals: 2,
          clientKey: randomUUID(),
        },
      ],
    });
    const [standing] = await lab().store.verdicts.standings.find({
      cellId: bench.cells[0]!.id,
    });
    expect((await states(0)).at(-1)).toBe(standing!.grade ? 'graded' : 'ready');
    await agree();
  });

  it('no stage that is not there yet ever occurs', async () => {
    const lines = await lotCells(lab(), bench.technician, { lotId: bench.lotId });
    for (const { life: state } of lines)
      expect(['arrived', 'quarantine', 'ready', 'onBench', 'graded']).toContain(state);
  });
});
