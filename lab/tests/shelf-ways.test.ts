import { randomUUID } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { cancelLot, resumeLot } from '../src/arrivals';
import {
  addJobs,
  finishByHand,
  listRecipes,
  planBoard,
  readAmbient,
  saveRecipe,
  startJob,
  startList,
} from '../src/bench';
import { recordReadings } from '../src/evidence';
import { watchBench } from '../src/gathering';
import {
  layToRest,
  listProtocols,
  restCurves,
  restShelf,
  saveProtocol,
  takeFromShelf,
} from '../src/resting';
import { dueItems, openLots } from '../src/today';
import { type BenchLab, benchLab, listEight, NOW } from '../testing/bench-lab';
import { failure } from '../testing/failure';
import { nmcLot } from '../testing/rest-lots';

const HOUR_MS = 3_600_000;
const DAY_MS = 24 * HOUR_MS;

describe('ways onto the shelf and off it', () => {
  let made = {} as BenchLab;
  let clock = NOW;
  const lab = () => made.fresh.lab;
  beforeAll(async () => {
    made = await benchLab(() => clock);
    await listEight(made);
    await readAmbient(lab(), made.technician, { celsius: 25 });
  });
  afterAll(() => made.fresh.close());

  const at = (days: number) => (clock = new Date(NOW.getTime() + days * DAY_MS));
  const read = (lotId: number, volts: Record<number, number>, purpose: 'rest' | 'arrival') =>
    recordReadings(lab(), made.technician, {
      lotId,
      readings: Object.entries(volts).map(([cellId, value]) => ({
        cellId: Number(cellId),
        kind: 'openCircuitVoltage' as const,
        value,
        decimals: 4,
        purpose,
        clientKey: randomUUID(),
      })),
    });
  const shelf = async (cellId: number) =>
    (await restShelf(lab(), made.technician, {})).filter((line) => line.cellId === cellId);

  it('a cell found below its cut-off goes to triage at once, until its voltage is read anew', async () => {
    const lot = await nmcLot(made.fresh, 2);
    const [first, second] = await lab().store.cells.find({ lotId: lot.id });
    await layToRest(lab(), made.technician, {
      lotId: lot.id,
      cellIds: [first!.id, second!.id],
      protocol: 'careful',
      fullAt: clock.toISOString(),
    });
    at(3);
    await read(lot.id, { [first!.id]: 2.41, [second!.id]: 4.16 }, 'rest');
    const [low] = await shelf(first!.id);
    expect(low).toMatchObject({ outcome: 'belowCutoff', endedAt: clock });
    expect((await shelf(second!.id))[0]).toMatchObject({ outcome: null });
    const due = async () =>
      (await dueItems(lab(), await openLots(lab()))).filter(({ kind }) => kind === 'toTriage');
    expect(await due()).toMatchObject([{ urgency: 'now', note: first!.number, count: 1 }]);
    at(3.1);
    await read(lot.id, { [first!.id]: 2.43 }, 'arrival');
    expect(await due()).toEqual([]);
    const arrival = await lab().store.arrivals.cells.one({ cellId: first!.id });
    expect(arrival!.triage, 'by the reading on arrival, as any').toBe('waitsForLead');
    at(0);
  });

  /** A run by hand of a recipe that only charges, done an hour after it began. */
  async function chargeByHand(thenRest: string | null, cellId: number, channelId: number) {
    const name = `Charge ${randomUUID().slice(0, 6)}`;
    await saveRecipe(lab(), made.fresh.admin, {
      name,
      purpose: 'own',
      attendedOnly: false,
      thenRest,
      steps: [
        {
          kind: 'charge',
          current: { in: 'It', value: 0.5 },
          limitV: null,
          taperIt: 0.05,
          maxHours: null,
          limitAh: null,
        },
      ],
    });
    const recipe = (await listRecipes(lab(), made.technician, {})).find(
      (one) => one.name === name,
    )!;
    await addJobs(lab(), made.technician, {
      lotId: made.lotId,
      cellIds: [cellId],
      recipeId: recipe.id,
    });
    const job = (await planBoard(lab(), made.technician, {})).jobs.findLast(
      (one) => one.cellId === cellId,
    )!;
    const where = { jobId: job.id, channelId };
    const list = await startList(lab(), made.technician, where);
    const { benchRunId } = await startJob(lab(), made.technician, {
      ...where,
      answers: list.questions.map(({ question }) => ({ question, answeredFor: 'cell' as const })),
    });
    clock = new Date(clock.getTime() + HOUR_MS);
    await finishByHand(lab(), made.technician, { benchRunId });
    return clock;
  }

  it('a run whose recipe says so ends on the shelf by itself, once, full since its end', async () => {
    const cell = made.cells[8]!;
    const ended = await chargeByHand('careful', cell.id, made.channels[0]!);
    await watchBench(lab());
    await watchBench(lab());
    const lines = await shelf(cell.id);
    expect(lines).toMatchObject([{ protocol: 'careful', fullAt: ended }]);
    await takeFromShelf(lab(), made.technician, {
      restIds: [lines[0]!.restId],
      reason: 'needed elsewhere',
    });
    await watchBench(lab());
    expect(await shelf(cell.id), 'taken off it stays off').toEqual([]);
  });

  it('is refused to a recipe that leaves its cells empty', async () => {
    const refused = saveRecipe(lab(), made.fresh.admin, {
      name: 'Empty on the shelf',
      purpose: 'own',
      attendedOnly: false,
      thenRest: 'careful',
      steps: [
        {
          kind: 'discharge',
          load: { by: 'current', current: { in: 'claimRate' } },
          cutoffV: null,
          maxHours: null,
          limitAh: null,
        },
      ],
    });
    expect((await failure(refused)).message).toContain('ends with a charge');
  });

  it('takes the end of the charge from the last run, and names cells whose run says none', async () => {
    const [full, never] = [made.cells[9]!, made.cells[11]!];
    const ended = await chargeByHand(null, full.id, made.channels[1]!);
    clock = new Date(clock.getTime() + 5 * HOUR_MS);
    const lay = (cellIds: number[]) =>
      layToRest(lab(), made.technician, {
        lotId: made.lotId,
        cellIds,
        protocol: 'against the lot',
        fullAt: clock.toISOString(),
        fromRun: true,
      });
    expect((await failure(lay([full.id, never.id]))).message).toContain(
      `${never.number}: the last run did not end with a charge`,
    );
    await lay([full.id]);
    expect((await shelf(full.id))[0]).toMatchObject({ fullAt: ended });
  });

  it('a protocol is copied and changed by a lead, with a reason; who rests keeps the version it has', async () => {
    const { admin } = made.fresh;
    const own = {
      name: 'careful',
      judges: 'volts' as const,
      looks: [
        {
          dueDays: 10,
          toleranceDays: 2,
          keepV: 4.12,
          fastLossV: 4.02,
          otherwise: 'reject' as const,
        },
      ],
      reason: 'our buyers ask for more',
    };
    expect((await failure(saveProtocol(lab(), made.technician, own))).code).toBe('notAllowed');
    const lot = await nmcLot(made.fresh, 2);
    const [before, after] = await lab().store.cells.find({ lotId: lot.id });
    const lay = (cellId: number) =>
      layToRest(lab(), made.technician, {
        lotId: lot.id,
        cellIds: [cellId],
        protocol: 'careful',
        fullAt: clock.toISOString(),
      });
    await lay(before!.id);
    expect(await saveProtocol(lab(), admin, own)).toEqual({ version: 2 });
    await lay(after!.id);
    const due = async (cellId: number) =>
      ((await shelf(cellId))[0]!.dueAt.getTime() - clock.getTime()) / DAY_MS;
    expect([await due(before!.id), await due(after!.id)]).toEqual([7, 10]);
    const listed = await listProtocols(lab(), made.technician, {});
    expect(listed.find(({ protocol }) => protocol.name === 'careful')).toMatchObject({
      protocol: { version: 2 },
      own: { reason: 'our buyers ask for more' },
    });
    const bad = (looks: object[], more: object = {}) =>
      failure(saveProtocol(lab(), admin, { ...own, ...more, looks } as never));
    expect((await bad([{ ...own.looks[0]!, fastLossV: 4.2 }])).message).toContain(
      'below the voltage that keeps',
    );
    expect((await bad([{ ...own.looks[0]!, otherwise: 'secondLook' }])).message).toContain(
      'no look after',
    );
    expect((await bad([{ ...own.looks[0]!, keepV: null, fastLossV: null }])).message).toContain(
      'goes by the lot',
    );
  });

  it('tells losses against days, from the first day on', async () => {
    const lot = await nmcLot(made.fresh, 1);
    const [cell] = await lab().store.cells.find({ lotId: lot.id });
    const began = clock;
    await layToRest(lab(), made.technician, {
      lotId: lot.id,
      cellIds: [cell!.id],
      protocol: 'two-look',
      fullAt: began.toISOString(),
    });
    for (const [days, volts] of [
      [0.2, 4.18],
      [1.5, 4.17],
      [4, 4.161],
    ] as const) {
      clock = new Date(began.getTime() + days * DAY_MS);
      await read(lot.id, { [cell!.id]: volts }, 'rest');
    }
    const [curve] = await restCurves(lab(), made.technician, { cellId: cell!.id });
    expect(curve!.points.map(({ days }) => days)).toEqual([1.5, 4]);
    expect(curve!.points.map(({ lostMv }) => Number(lostMv.toFixed(3)))).toEqual([0, 9]);
  });

  it('cells of a lot that was called off are nobody’s to read, until it is taken up again', async () => {
    const { admin } = made.fresh;
    const lot = await nmcLot(made.fresh, 1);
    const [cell] = await lab().store.cells.find({ lotId: lot.id });
    await layToRest(lab(), made.technician, {
      lotId: lot.id,
      cellIds: [cell!.id],
      protocol: 'two-look',
      fullAt: clock.toISOString(),
    });
    const due = async () =>
      (await dueItems(lab(), await openLots(lab()))).filter(
        (item) => item.kind === 'shelf' && item.lot?.code === lot.code,
      ).length;
    const version = async () => (await lab().store.lots.one({ id: lot.id }))!.version;
    expect(await due()).toBe(1);
    await cancelLot(lab(), admin, {
      lotId: lot.id,
      version: await version(),
      reason: 'the seller takes it back',
    });
    expect(await due()).toBe(0);
    await resumeLot(lab(), admin, { lotId: lot.id, version: await version() });
    expect(await due()).toBe(1);
  });
});
