import { type Clamping, clampingDifference, clampingOfRun } from '@dusk-tally/core/chemistry';
import {
  ampsOf,
  answeredBefore,
  charges,
  claimDifferences,
  courseS,
  type EarlierAnswer,
  expectedCourse,
  leadLoss,
  type LeadLoss,
  limitedToReach,
  mostChargeAh,
  type Reach,
  reachOf,
  START_QUESTIONS,
  type StartQuestion,
  startQuestions,
  type StartReason,
  startReasons,
} from '@dusk-tally/core/bench';
import type { BenchJobRow, BenchRunRow, Transaction } from '@dusk-tally/store';
import { z } from 'zod';
import { found, type Lab, LabError, question } from '../shared';
import { knownCells, restUntil } from './known-cells';
import { type BenchChannel, benchChannels } from './bench-channels';
import { lotConditions } from './conditions';
import { courseConditions, jobCourse } from './job-course';
import { newestVoltages } from './problem';
import { recipeOf } from './recipes';
import { benchSettings, labAttendedForS } from './settings';

/** A room’s temperature read longer ago than this is no longer known, ms. */
const AMBIENT_GOOD_MS = 12 * 3_600_000;

/** What is known, asked and said before a job starts on a channel. */
export interface StartList {
  jobId: number;
  cell: string;
  lot: string;
  recipe: string;
  channel: { id: number; title: string; driven: boolean };
  questions: {
    question: StartQuestion;
    words: string;
    /** Answered a short while ago by the same person for like cells. */
    known: boolean;
  }[];
  reasons: StartReason[];
  differences: string[];
  leads: LeadLoss;
  /** Torque of its terminals, N·m, as the data sheet says; null where it does not. */
  torqueNm: number | null;
  /** How the cell is held in the run; null for a round one. */
  clamping: Clamping | null;
  /** Force of the data sheet, N. */
  clampForceN: number | null;
  durationS: number;
  ambientC: number | null;
  voltageV: number | null;
  isCharging: boolean;
}

interface Gathered {
  list: StartList;
  row: Omit<BenchRunRow, 'id' | 'version' | 'startList' | 'personId' | 'createdAt' | 'counterAh'>;
}

/** Answers for like cells hold this long, ms. */
export const SET_HOLDS_MS = 4 * 3_600_000;

/** What a person answered of late for cells of the same lot and recipe. */
async function earlierAnswers(
  lab: Lab,
  personId: number,
  { lotId, recipeVersionId }: Pick<BenchJobRow, 'lotId' | 'recipeVersionId'>,
  transaction?: Transaction,
): Promise<EarlierAnswer[]> {
  const since = new Date(lab.now().getTime() - SET_HOLDS_MS);
  const runs = await lab.store.bench.runs.find(
    { personId, lotId, recipeVersionId, createdAt: { above: since } },
    { transaction, columns: ['startList', 'channelId'] },
  );
  return runs.flatMap(({ startList: answers, channelId }) =>
    answers.map((answer) => ({ ...answer, channelId })),
  );
}

/** Everything a start hangs on, as it is now. @throws LabError where the recipe cannot run with the cell. */
async function loadStart(
  lab: Lab,
  { jobId, channelId }: { jobId: number; channelId: number },
  transaction?: Transaction,
) {
  const { store } = lab;
  const now = lab.now();
  const job = found(await store.bench.jobs.one({ id: jobId }, { transaction }), 'That job');
  const channel = found(
    (await benchChannels(lab, transaction)).find(({ id }) => id === channelId),
    'That channel',
  );
  const [cell, lot, recipe, conditions, settings, voltages, arrival, attendedForS] = [
    (await store.cells.one({ id: job.cellId }, { transaction }))!,
    (await store.lots.one({ id: job.lotId }, { transaction }))!,
    await recipeOf(lab, job.recipeVersionId, transaction),
    await lotConditions(lab, job.lotId, transaction),
    await benchSettings(lab, transaction),
    await newestVoltages(lab, [job.cellId], transaction),
    await store.arrivals.cells.one({ cellId: job.cellId }, { transaction }),
    await labAttendedForS(lab, now, transaction),
  ];
  const model = (await store.cellModels.one({ id: lot.modelId }, { transaction }))!;
  const voltageV = voltages.get(cell.id) ?? null;
  const isKnown = (await knownCells(lab, [cell.id], transaction)).has(cell.id);
  const course = jobCourse(recipe, conditions, { voltageV, isKnown });
  if (course.problem)
    throw new LabError(
      'invalid',
      `“${recipe.name}” cannot run with ${cell.number}: ${course.problem}`,
    );
  const driven = channel.wiring !== null;
  const onChannel = expectedCourse(
    course.program,
    courseConditions(conditions, course.stateOfCharge, channel),
  );
  const freshAmbient =
    settings.ambientAt && now.getTime() - settings.ambientAt.getTime() < AMBIENT_GOOD_MS
      ? settings.ambientC
      : null;
  return {
    now,
    job,
    channel,
    cell,
    lot,
    model,
    recipe,
    conditions,
    arrival,
    attendedForS,
    voltageV,
    isKnown,
    course,
    onChannel,
    ambientC: freshAmbient,
    driven,
  };
}

type Loaded = Awaited<ReturnType<typeof loadStart>>;

/** The run a start would make. */
function rowOf(
  { now, job, channel, model, recipe, conditions, course, ambientC, driven }: Loaded,
  reach: Reach,
): Gathered['row'] {
  return {
    jobId: job.id,
    cellId: job.cellId,
    lotId: job.lotId,
    channelId: channel.id,
    recipeVersionId: recipe.id,
    program: course.program.map((step) => limitedToReach(step, reach)),
    limits: {
      highV: conditions.chargeV,
      lowV: conditions.lowV,
      ambientC: ambientC ?? 25,
      intervalS: channel.limits.reportS,
      mostAh: mostChargeAh(conditions.ratedAh, model.ratedAh ?? 0),
    },
    driven,
    state: driven ? 'ready' : 'running',
    agent: null,
    speed: 1,
    chemistry: conditions.chemistry,
    expectedAh: conditions.ratedAh,
    startSoc: course.stateOfCharge,
    ambientC,
    clamping: clampingOfRun(recipe.clamping ?? null, model),
    startedAt: driven ? null : now,
    endedAt: null,
    endReason: null,
    completed: null,
    runId: null,
  };
}

/** What is known, asked and said before a start, and the run it would make. */
export async function gather(
  lab: Lab,
  actorId: number,
  { jobId, channelId, counterAh }: { jobId: number; channelId: number; counterAh: number | null },
  transaction?: Transaction,
): Promise<Gathered> {
  const loaded = await loadStart(lab, { jobId, channelId }, transaction);
  const { job, channel, cell, lot, model, recipe, conditions, arrival, course } = loaded;
  const { onChannel, ambientC, voltageV, isKnown, attendedForS, driven } = loaded;
  const restsUntil = await restUntil(lab, cell.id, loaded.now, transaction);
  const facts = {
    program: course.program,
    purpose: recipe.purpose,
    attendedOnly: recipe.attendedOnly,
    limits: channel.limits,
    inspectionClear: !arrival?.inspected
      ? null
      : arrival.worst !== 'stop' && arrival.worst !== 'serious',
    voltageV,
    lowV: conditions.lowV,
    highV: conditions.chargeV + 0.02,
    ambientC,
    claimTemperatureC: conditions.claimTemperatureC,
    counterAh,
    course: onChannel,
    restsUntil,
    isKnown,
    attendedForS,
    driven,
  };
  const clamping = clampingOfRun(recipe.clamping ?? null, model);
  const { reach, hours, amps } = currents(channel, conditions, course.program);
  const asked = startQuestions(facts);
  const earlier = await earlierAnswers(lab, actorId, job, transaction);
  const known = new Set(answeredBefore(asked, earlier, channel.id));
  return {
    list: {
      jobId,
      cell: cell.number,
      lot: lot.code,
      recipe: recipe.name,
      channel: { id: channel.id, title: channel.title, driven },
      questions: asked.map((question) => ({
        question,
        words: START_QUESTIONS[question].words,
        known: known.has(question),
      })),
      reasons: startReasons(facts),
      differences: [
        ...claimDifferences(course.program, conditions, reach),
        ...[clampingDifference(conditions.claimedClamping, clamping)].filter(
          (text) => text !== null,
        ),
      ],
      leads: leadLoss(channel.limits.leadPlusMohm + channel.limits.leadMinusMohm, amps, {
        hours,
        wires: channel.limits.wires,
        cutoffV: conditions.claimCutoffV,
      }),
      torqueNm: model.terminalTorqueNm,
      clamping,
      clampForceN: model.clampForceN,
      durationS: courseS(onChannel),
      ambientC,
      voltageV,
      isCharging: charges(course.program),
    },
    row: rowOf(loaded, reach),
  };
}

function currents(
  channel: BenchChannel,
  conditions: Awaited<ReturnType<typeof lotConditions>>,
  program: BenchRunRow['program'],
) {
  const reach = reachOf(channel.limits, conditions);
  const discharge = program.find((step) => step.kind === 'discharge');
  const wantedA =
    discharge?.mode === 'current' ? discharge.set : ampsOf({ in: 'claimRate' }, conditions);
  const amps = Math.min(wantedA, reach.discharge.amps);
  return { reach, amps, hours: conditions.ratedAh / amps };
}

export const startInput = {
  jobId: z.int(),
  channelId: z.int(),
  /** What the instrument’s counter shows, Ah; read from it where an agent drives it. */
  counterAh: z
    .number()
    .finite()
    .nullish()
    .transform((value) => value ?? null),
};

/** The list before a start. */
export const startList = question({
  role: 'technician',
  input: z.object(startInput),
  run: async (lab, input, actor): Promise<StartList> => (await gather(lab, actor.id, input)).list,
});
