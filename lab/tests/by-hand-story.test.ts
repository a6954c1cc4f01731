import { randomUUID } from 'node:crypto';
import type { PointField } from '@dusk-tally/core/evidence';
import { recordDischarge, typicalCell } from '@dusk-tally/core/simulator';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import {
  addJobs,
  finishByHand,
  listRecipes,
  planBoard,
  readAmbient,
  saveRecipe,
  setChannelLimits,
  startJob,
  startList,
} from '../src/bench';
import { recordReadings } from '../src/evidence';
import { endHandLog, keepHandPoints, setHandLog, watchBench } from '../src/gathering';
import { issueReport, reportPage, reportPdf } from '../src/reports';
import { restShelf } from '../src/resting';
import { lotCells } from '../src/verdicts';
import { ABLE, type BenchLab, benchLab, NOW } from '../testing/bench-lab';
import { anotherProcess } from '../testing/fresh-lab';
import { pdfText } from '../testing/pdf-text';

const HOUR_MS = 3_600_000;
const DAY_MS = 24 * HOUR_MS;
/** What the cells hold; they were sold as 6 Ah. */
const HOLDS = [6.31, 6.3, 6.33, 6.29, 6.32, 6.3, 6.31, 6.28];
/** This one loses charge at rest. */
const LOSER = 3;

describe('a lab with display testers, a hand meter and a marker', () => {
  let made = {} as BenchLab;
  let clock = NOW;
  const lab = () => made.fresh.lab;
  const cells = () => made.cells.slice(0, HOLDS.length);
  beforeAll(async () => {
    made = await benchLab(() => clock);
    await readAmbient(lab(), made.technician, { celsius: 25 });
    for (const { id: channelId, version } of (await planBoard(lab(), made.technician, {})).channels)
      await setChannelLimits(lab(), made.fresh.admin, {
        channelId,
        version,
        limits: { ...ABLE, wires: 4 },
        wiring: null,
      });
  });
  afterAll(() => made.fresh.close());

  const standing = async (at: number) =>
    (await lotCells(lab(), made.technician, { lotId: made.lotId })).find(
      ({ id }) => id === cells()[at]!.id,
    )!;
  const later = (ms: number) => (clock = new Date(clock.getTime() + ms));

  async function begin(recipeId: number, at: number): Promise<number> {
    const cellId = cells()[at]!.id;
    await addJobs(lab(), made.technician, { lotId: made.lotId, cellIds: [cellId], recipeId });
    const job = (await planBoard(lab(), made.technician, {})).jobs.findLast(
      (one) => one.cellId === cellId,
    )!;
    const where = { jobId: job.id, channelId: made.channels[at % 4]! };
    const { questions } = await startList(lab(), made.technician, where);
    return (
      await startJob(lab(), made.technician, {
        ...where,
        answers: questions.map(({ question }) => ({ question, answeredFor: 'cell' as const })),
      })
    ).benchRunId;
  }

  it('charges by hand, and the shelf takes the cells over by itself', async () => {
    await saveRecipe(lab(), made.fresh.admin, {
      name: 'Charge for the shelf',
      purpose: 'own',
      attendedOnly: false,
      thenRest: 'against the lot',
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
      ({ name }) => name === 'Charge for the shelf',
    )!;
    for (const four of [
      [0, 1, 2, 3],
      [4, 5, 6, 7],
    ]) {
      const runs: number[] = [];
      for (const at of four) runs.push(await begin(recipe.id, at));
      later(2 * HOUR_MS);
      for (const benchRunId of runs) await finishByHand(lab(), made.technician, { benchRunId });
    }
    await watchBench(lab());
    expect(await restShelf(lab(), made.technician, {})).toHaveLength(HOLDS.length);
    expect((await standing(0)).life).toBe('resting');
    const claimCheck = (await listRecipes(lab(), made.technician, {})).find(
      ({ name }) => name === 'Claim check',
    )!;
    await addJobs(lab(), made.technician, {
      lotId: made.lotId,
      cellIds: [cells()[0]!.id],
      recipeId: claimCheck.id,
    });
    const job = (await planBoard(lab(), made.technician, {})).jobs.at(-1)!;
    const { reasons } = await startList(lab(), made.technician, {
      jobId: job.id,
      channelId: made.channels[0]!,
    });
    expect(reasons.find(({ code }) => code === 'resting')).toMatchObject({ weight: 'say' });
    expect(reasons.map(({ text }) => text).join()).toContain('Starting now ends its rest');
  });

  it('two weeks later, over a restart, the shelf has named who loses charge', async () => {
    const full = clock.getTime();
    for (const day of [1.2, 7, 14.5]) {
      clock = new Date(full + day * DAY_MS);
      // A process that knows nothing but the database.
      await recordReadings(
        anotherProcess(made.fresh.url, () => clock),
        made.technician,
        {
          lotId: made.lotId,
          readings: cells().map(({ id }, at) => ({
            cellId: id,
            kind: 'openCircuitVoltage' as const,
            value: Number((3.34 - (at === LOSER ? 0.0009 : 0.0002) * day).toFixed(4)),
            decimals: 4,
            purpose: 'rest' as const,
            temperatureC: 22,
            clientKey: randomUUID(),
          })),
        },
      );
    }
    const outcomes = (await restShelf(lab(), made.technician, {})).map(
      ({ cellId, outcome }) => [cellId, outcome] as const,
    );
    for (const [cellId, outcome] of outcomes)
      expect(outcome).toBe(cellId === cells()[LOSER]!.id ? 'fastLoss' : 'keep');
    expect((await standing(0)).grade, 'nothing says what it holds yet').not.toBe('First');
  });

  /** Points somebody reads as they walk past, until the tester stopped. */
  function pointsOf(holdsAh: number, loadOn: Date, seed: number) {
    const rows = recordDischarge(typicalCell('LFP', holdsAh), {
      currentA: 1.2,
      cutoffV: 2.3,
      intervalS: 30,
      restBeforeS: 0,
      restAfterS: 0,
      ambientC: 25,
      seed,
    });
    const end = rows.find(({ voltageV }) => voltageV <= 2.47)!.timeS;
    return [360, 7200, 14_400, end - 1500, end - 420, end - 90, end].map((atS) => {
      const row = rows.findLast(({ timeS }) => timeS <= atS)!;
      const values: Partial<Record<PointField, number>> = {
        shownV: Number(row.voltageV.toFixed(2)),
        shownA: 1.2,
        shownAh: Number(((1.2 * row.timeS) / 3600).toFixed(3)),
        cellV: Number(row.voltageV.toFixed(3)),
      };
      return {
        at: new Date(loadOn.getTime() + 1000 * row.timeS).toISOString(),
        values,
        decimals: { shownV: 2, shownA: 1, shownAh: 3, cellV: 3 },
        clientKey: randomUUID(),
      };
    });
  }

  it('hand logs come to capacities with limits that hold the truth', async () => {
    const recipe = (await listRecipes(lab(), made.technician, {})).find(
      ({ name }) => name === 'Claim check',
    )!;
    for (const [at, holdsAh] of HOLDS.entries()) {
      later(HOUR_MS);
      // In the evening, nobody there: the cell is known by now, if only by hand.
      await readAmbient(lab(), made.technician, { celsius: 24 });
      const benchRunId = await begin(recipe.id, at);
      // Charged, and rested its hour: then the load comes on.
      later(3 * HOUR_MS);
      const loadOn = clock;
      await setHandLog(lab(), made.technician, {
        benchRunId,
        version: 0,
        loadOnAt: loadOn.toISOString(),
        setA: 1.2,
        setCutoffV: 2.5,
        countAtStartAh: 0,
      });
      later(6 * HOUR_MS);
      await keepHandPoints(lab(), made.technician, {
        benchRunId,
        points: pointsOf(holdsAh, loadOn, 900 + at),
      });
      const { capacityAh, bound } = await endHandLog(lab(), made.technician, { benchRunId });
      expect(bound).toBe('exact');
      const figure = (
        await lab().store.figures.find({ cellId: cells()[at]!.id, quantity: 'capacity' })
      ).at(-1)!;
      expect(figure.value).toBeCloseTo(capacityAh, 6);
      expect(Math.abs(figure.value - holdsAh)).toBeLessThan(2 * figure.standardUncertainty! + 0.02);
    }
  }, 240_000);

  it('First is reached by all but the loser, and the report shows how', async () => {
    await recordReadings(lab(), made.technician, {
      lotId: made.lotId,
      readings: cells().map(({ id }) => ({
        cellId: id,
        kind: 'acResistance' as const,
        value: 0.43,
        decimals: 2,
        clientKey: randomUUID(),
      })),
    });
    for (const at of HOLDS.keys())
      expect((await standing(at)).grade, cells()[at]!.number).toBe(
        at === LOSER ? 'Second' : 'First',
      );
    const { number } = await issueReport(lab(), made.fresh.admin, {
      lotId: made.lotId,
      cellIds: cells().map(({ id }) => id),
      customer: 'Tidewright Buoys',
      language: 'de',
    });
    const { snapshot } = await reportPage(lab(), made.fresh.admin, { number });
    const [first, loser] = [snapshot.items[0]!, snapshot.items[LOSER]!];
    expect(first.rest![0]).toMatch(
      /^At rest for 14\.\d days by the protocol against the lot: keeps its charge\.$/,
    );
    expect(first.rest![1]).toMatch(/^Voltage at rest: [−-]0\.\d+ ± 0\.\d+ mV a day\.$/);
    expect(loser.rest![0]).toContain('fast loss');
    expect(loser.reasons.join()).toContain('it loses charge at rest');
    expect(snapshot.method.join('\n')).toMatch(/Capacity of all items: no log was written/);
    expect(snapshot.method.join('\n'), 'nothing was logged').not.toContain('trapezoid');
    expect(snapshot.method.join('\n')).toContain(
      `How the cells were held in the test: ${cells().length} free.`,
    );
    expect(snapshot.notTested.join()).not.toContain('self-discharge');
    const text = await pdfText(await reportPdf(lab(), made.fresh.admin, { number }));
    expect(text).toContain('hält ihre Ladung');
    expect(text).toContain('kein Protokoll wurde geschrieben');
  });
});
