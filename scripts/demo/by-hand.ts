import { randomUUID } from 'node:crypto';
import { recordDischarge, typicalCell } from '@dusk-tally/core/simulator';
import { seededRandom } from '@dusk-tally/core/statistics';
import type { Lab } from '@dusk-tally/lab';
import {
  addJobs,
  listRecipes,
  planBoard,
  readAmbient,
  saveRecipe,
  setChannelLimits,
  startJob,
  startList,
} from '@dusk-tally/lab/bench';
import { addChannel, addInstrument, recordReadings } from '@dusk-tally/lab/evidence';
import { keepHandPoints, setHandLog } from '@dusk-tally/lab/gathering';
import { layToRest } from '@dusk-tally/lab/resting';
import { dayBefore, type Stage } from './basics';

const HOUR_MS = 3_600_000;
const DAY_MS = 24 * HOUR_MS;

/** The lab as it acts at an earlier moment. */
const earlier = (stage: Stage, ms: number): Lab => ({
  ...stage.lab,
  now: () => new Date(stage.now.getTime() - ms),
});

/** Testers with a display and two knobs, one channel each. */
async function displayTesters({ lab, admin, now }: Stage): Promise<number[]> {
  const tester = await addInstrument(lab, admin, {
    kind: 'tester',
    name: 'Display tester',
    serial: 'FS-0155',
    calibratedOn: dayBefore(now, 70),
    dueOn: dayBefore(now, -295),
    accuracy: {
      currentGainPct: 0.5,
      currentOffsetA: 0.01,
      voltageGainPct: 0,
      voltageOffsetV: 0.01,
      timePpm: 200,
    },
  });
  for (const name of ['2', '3'])
    await addChannel(lab, admin, {
      instrumentId: tester.id,
      name,
      calibratedOn: dayBefore(now, 70),
      dueOn: dayBefore(now, -295),
    });
  const channels = await lab.store.meters.channels.find(
    { instrumentId: tester.id },
    { order: [['id', 'ASC']], columns: ['id'] },
  );
  for (const { id: channelId } of channels)
    await setChannelLimits(lab, admin, {
      channelId,
      version: (await lab.store.bench.channels.one({ channelId }))?.version ?? null,
      limits: {
        minA: 0.1,
        maxA: 30,
        maxW: 150,
        minV: 1,
        maxV: 60,
        canCharge: false,
        canDischarge: true,
        wires: 2,
        currentGainPct: 0.5,
        currentOffsetA: 0.01,
        voltageGainPct: 0,
        voltageOffsetV: 0.01,
        resolutionV: 0.01,
        resolutionA: 0.1,
        reportS: 60,
        leadPlusMohm: 0,
        leadMinusMohm: 0,
        fuseA: 40,
        holderA: 32,
        enforcesCutoff: true,
      },
      wiring: null,
      agent: null,
    });
  return channels.map(({ id }) => id);
}

interface HandStory {
  at: number;
  holdsAh: number;
  /** Hours ago the load came on, and hours after it somebody read a point. */
  agoH: number;
  readH: number[];
  leadMohm: number;
  /** What its counter showed before. */
  countedAh: number;
  /** Whether somebody put a meter on the terminals. */
  withMeter: boolean;
}

const STORIES: readonly HandStory[] = [
  {
    at: 0,
    holdsAh: 100.2,
    agoH: 2.9,
    readH: [0.1, 1.3, 2.5],
    leadMohm: 4.6,
    countedAh: 0,
    withMeter: true,
  },
  {
    at: 1,
    holdsAh: 99.4,
    agoH: 4.5,
    readH: [0.1, 2.2, 3.5, 4.4],
    leadMohm: 3.8,
    countedAh: 0,
    withMeter: true,
  },
  {
    at: 2,
    holdsAh: 105.3,
    agoH: 1.2,
    readH: [0.1, 0.9],
    leadMohm: 5.2,
    countedAh: 3.2,
    withMeter: false,
  },
];

/** What a display and a hand meter show of a simulated cell after some hours. */
function shownOf({ holdsAh, leadMohm, countedAh, withMeter }: HandStory, hours: number) {
  const amps = 20.8;
  const rows = recordDischarge(typicalCell('LFP', holdsAh), {
    currentA: amps,
    cutoffV: 2.3,
    intervalS: 60,
    restBeforeS: 0,
    restAfterS: 0,
    ambientC: 22,
    seed: 61,
  });
  const { voltageV } = rows.findLast(({ timeS }) => timeS <= hours * 3600)!;
  const ah = amps * hours;
  return {
    values: {
      shownV: Number((voltageV - (leadMohm / 1000) * amps).toFixed(2)),
      shownA: amps,
      shownAh: Number((ah + countedAh).toFixed(2)),
      ...(withMeter ? { cellV: Number(voltageV.toFixed(3)) } : {}),
    },
    decimals: { shownV: 2, shownA: 1, shownAh: 2, ...(withMeter ? { cellV: 3 } : {}) },
  };
}

/** Three cells of lot B on testers that only show a number, read now and again. */
export async function runByHand(stage: Stage): Promise<void> {
  const { lab, admin, technician, now } = stage;
  const channels = await displayTesters(stage);
  const lot = (await lab.store.lots.one({ code: 'L-002' }))!;
  const cells = await lab.store.cells.find({ lotId: lot.id }, { order: [['position', 'ASC']] });
  const cellIds = [cells[24]!.id, cells[25]!.id, cells[26]!.id];
  await saveRecipe(lab, admin, {
    name: 'Discharge alone',
    purpose: 'claimCheck',
    attendedOnly: false,
    steps: [
      {
        kind: 'discharge',
        load: { by: 'current', current: { in: 'claimRate' } },
        cutoffV: null,
        maxHours: null,
        limitAh: null,
      },
    ],
    note: 'For cells that were charged elsewhere; charge them to storage the same day.',
  });
  const recipe = (await listRecipes(lab, admin, {})).find(
    ({ name }) => name === 'Discharge alone',
  )!;
  // Charged on a supply the evening before.
  await recordReadings(earlier(stage, 10 * HOUR_MS), technician, {
    lotId: lot.id,
    instrumentId: stage.voltmeterId,
    readings: cellIds.map((cellId, i) => ({
      cellId,
      kind: 'openCircuitVoltage' as const,
      value: 3.412 + 0.003 * i,
      decimals: 4,
      purpose: 'rest' as const,
      clientKey: randomUUID(),
    })),
  });
  await addJobs(lab, technician, { lotId: lot.id, cellIds, recipeId: recipe.id });
  await readAmbient(lab, technician, { celsius: 22 });
  for (const story of STORIES) {
    const then = earlier(stage, story.agoH * HOUR_MS);
    const { jobs } = await planBoard(lab, technician, {});
    const job = jobs.find(({ cellId }) => cellId === cellIds[story.at])!;
    const where = { jobId: job.id, channelId: channels[story.at]! };
    const list = await startList(then, technician, where);
    const { benchRunId } = await startJob(then, technician, {
      ...where,
      answers: list.questions.map(({ question, known }) => ({
        question,
        answeredFor: known ? ('set' as const) : ('cell' as const),
      })),
    });
    const loadOnAt = new Date(now.getTime() - story.agoH * HOUR_MS);
    await setHandLog(then, technician, {
      benchRunId,
      version: 0,
      loadOnAt: loadOnAt.toISOString(),
      setA: 20.8,
      setCutoffV: 2.5,
      countAtStartAh: 0,
    });
    for (const hours of story.readH)
      await keepHandPoints(lab, technician, {
        benchRunId,
        points: [
          {
            ...shownOf(story, hours),
            at: new Date(loadOnAt.getTime() + hours * HOUR_MS).toISOString(),
            keptDespite: story.countedAh > 0 ? 'as shown' : null,
            clientKey: randomUUID(),
          },
        ],
      });
  }
}

/** Groups of lot C on the shelf: since how many days full, which cells, read after how many days. */
const SHELF = [
  { days: 15.6, cells: [42, 43, 44, 45, 46, 47, 48, 49], read: [1.1, 5.1] },
  { days: 7.05, cells: [51, 52, 53, 54, 55, 56, 57, 58], read: [1.1, 5] },
  { days: 3.2, cells: [59, 60, 62, 63, 64, 65], read: [1.2] },
] as const;

/** Cells that lose faster than the others, mV a day. */
const FAST = new Map([
  [45, 11.5],
  [54, 9.2],
]);

/** Cells of lot C that stand full: some late, some due today, some not yet; two lose fast. */
export async function layOutShelf(stage: Stage): Promise<void> {
  const { lab, technician, now, voltmeterId } = stage;
  const lot = (await lab.store.lots.one({ code: 'L-003' }))!;
  const cells = await lab.store.cells.find({ lotId: lot.id }, { order: [['position', 'ASC']] });
  const random = seededRandom(67);
  for (const { days, cells: own, read } of SHELF) {
    const fullAt = new Date(now.getTime() - days * DAY_MS);
    await layToRest(earlier(stage, days * DAY_MS), technician, {
      lotId: lot.id,
      cellIds: own.map((i) => cells[i]!.id),
      protocol: 'careful',
      fullAt: fullAt.toISOString(),
    });
    const full = new Map(own.map((i) => [i, 4.168 + 0.004 * random.normal()]));
    for (const day of read)
      await recordReadings(earlier(stage, (days - day) * DAY_MS), technician, {
        lotId: lot.id,
        instrumentId: voltmeterId,
        readings: own.map((i) => ({
          cellId: cells[i]!.id,
          kind: 'openCircuitVoltage' as const,
          value: Number(
            (full.get(i)! - ((FAST.get(i) ?? 1.1 + 0.12 * random.normal()) / 1000) * day).toFixed(
              4,
            ),
          ),
          decimals: 4,
          purpose: 'rest' as const,
          temperatureC: 21.5,
          clientKey: randomUUID(),
        })),
      });
  }
}
