import { ACTIVE_RUN_STATES, START_QUESTIONS, type StartQuestion } from '@dusk-tally/core/bench';
import { asMark } from '@dusk-tally/core/arrivals';
import type { Transaction } from '@dusk-tally/store';
import { z } from 'zod';
import { openLot, requireOpenGate } from '../lots';
import { found, type Lab, LabError, procedure } from '../shared';
import { gather, SET_HOLDS_MS, startInput, type StartList } from './start-list';

/** Kept with the answers where the cell at the place was scanned and is the one to run. */
export const SCANNED_AT_PLACE = 'scannedAtPlace';

/** @throws LabError where another cell than the one to run is at its place. */
async function requireAtPlace(
  lab: Lab,
  scanned: string,
  list: Pick<StartList, 'cell' | 'channel'>,
  transaction: Transaction,
): Promise<void> {
  const { cells } = lab.store;
  const own = await cells.one({ number: list.cell }, { transaction });
  if (own?.number === scanned.toUpperCase() || own?.label === asMark(scanned)) return;
  const seen =
    (await cells.one({ number: scanned.toUpperCase() }, { transaction })) ??
    (await cells.one({ label: asMark(scanned) }, { transaction }));
  throw new LabError(
    'invalid',
    seen
      ? `${seen.number} stands at ${list.channel.title}; this run is of ${list.cell}. Nothing was started: exchange the cells, or start ${seen.number}.`
      : `“${scanned}” is no cell of this lab: expected the number or the mark of ${list.cell}. Nothing was started.`,
    { field: 'scanned' },
  );
}

interface Answer {
  question: StartQuestion;
  answeredFor: 'cell' | 'set';
}

/** @throws LabError where a question is open, or answered for a set it was never answered for. */
function requireAnswers(list: StartList, answers: readonly Answer[]): void {
  const open = list.questions.filter(
    ({ question }) => !answers.some((one) => one.question === question),
  );
  if (open.length > 0)
    throw new LabError(
      'invalid',
      `Not answered yet: ${open.map(({ words }) => words).join('; ')}.`,
    );
  const unknown = list.questions.find(
    ({ question, known }) =>
      !known && answers.some((one) => one.question === question && one.answeredFor === 'set'),
  );
  if (unknown)
    throw new LabError(
      'invalid',
      `Not answered for these cells yet: ${unknown.words}. Answers for like cells hold for ${SET_HOLDS_MS / 3_600_000} hours, for the one who gave them.`,
    );
}

/** Locks the channel: two starts on it come one after the other. @throws LabError where something runs on it. */
async function requireFree(
  lab: Lab,
  channel: StartList['channel'],
  transaction: Transaction,
): Promise<void> {
  await lab.store.meters.channels.one({ id: channel.id }, { transaction, forUpdate: true });
  const taken = await lab.store.bench.runs.one(
    { channelId: channel.id, state: ACTIVE_RUN_STATES },
    { transaction },
  );
  if (taken) {
    const other = await lab.store.cells.one({ id: taken.cellId }, { transaction });
    throw new LabError(
      'conflict',
      `${channel.title} is taken: ${other?.number ?? 'another cell'} runs on it.`,
    );
  }
}

/** Starts a job: everything asked was answered, and nothing stands against it. */
export const startJob = procedure({
  role: 'technician',
  input: z.object({
    ...startInput,
    /** Number or mark read off the cell where it stands; empty where nobody did. */
    scanned: z.string().trim().max(120).default(''),
    answers: z.array(
      z.object({
        question: z.enum(Object.keys(START_QUESTIONS) as [StartQuestion, ...StartQuestion[]]),
        answeredFor: z.enum(['cell', 'set']),
      }),
    ),
  }),
  run: async ({
    lab,
    actor,
    input,
    transaction,
    audit,
  }): Promise<{ benchRunId: number; driven: boolean }> => {
    const { bench } = lab.store;
    const job = found(
      await bench.jobs.one({ id: input.jobId }, { transaction, forUpdate: true }),
      'That job',
    );
    if (job.state !== 'waiting' && job.state !== 'planned')
      throw new LabError(
        'conflict',
        job.state === 'running' ? 'This job runs already.' : `This job is ${job.state}.`,
      );
    await openLot(lab, job.lotId, transaction);
    const { list, row } = await gather(lab, actor.id, input, transaction);
    await requireOpenGate(lab, { id: job.cellId, number: list.cell }, null, transaction);
    const stops = list.reasons.filter(({ weight }) => weight === 'stop');
    if (stops.length > 0)
      throw new LabError(
        'notAllowed',
        `${list.cell} may not start. ${stops.map(({ text }) => text).join(' ')}`,
      );
    requireAnswers(list, input.answers);
    if (input.scanned !== '') await requireAtPlace(lab, input.scanned, list, transaction);
    await requireFree(lab, list.channel, transaction);
    const run = await bench.runs.insert(
      {
        ...row,
        counterAh: input.counterAh ?? 0,
        startList: [
          ...input.answers,
          ...(input.scanned === ''
            ? []
            : [{ question: SCANNED_AT_PLACE, answeredFor: 'cell' as const }]),
        ],
        personId: actor.id,
        createdAt: lab.now(),
      },
      transaction,
    );
    await bench.jobs.update(
      { state: 'running', version: job.version + 1 },
      { id: job.id },
      transaction,
    );
    await audit({
      act: 'started run',
      subjectType: 'cell',
      subjectId: list.cell,
      after: {
        run: run.id,
        recipe: list.recipe,
        channel: list.channel.title,
        answers: input.answers.map(({ question, answeredFor }) =>
          answeredFor === 'set' ? `${question} (for the set)` : question,
        ),
        scannedAtPlace: input.scanned !== '',
        said: list.reasons.map(({ text }) => text),
      },
    });
    return { benchRunId: run.id, driven: row.driven };
  },
});
