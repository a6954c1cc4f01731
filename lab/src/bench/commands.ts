import { ALARMS, type AlarmCode, COMMAND_KINDS } from '@dusk-tally/core/bench';
import type { BenchRunRow, Transaction } from '@dusk-tally/store';
import { z } from 'zod';
import { found, type Lab, LabError, procedure } from '../shared';
import { closeRun } from './close-run';

/** An agent that was not heard for so long may be gone for good, ms. */
const AGENT_GONE_MS = 60_000;

/** A run that is on. */
async function activeRun(lab: Lab, id: number, transaction: Transaction): Promise<BenchRunRow> {
  const run = found(
    await lab.store.bench.runs.one({ id }, { transaction, forUpdate: true }),
    'That run',
  );
  if (run.state !== 'ready' && run.state !== 'running')
    throw new LabError('conflict', `This run is over: ${run.endReason ?? 'it ended'}`);
  return run;
}

/** Asks an agent to pause, go on with or stop a run, or gives what a measuring step waits for. */
export const commandRun = procedure({
  role: 'technician',
  input: z
    .object({
      benchRunId: z.int(),
      kind: z.enum(COMMAND_KINDS),
      value: z
        .number()
        .finite()
        .nullish()
        .transform((value) => value ?? null),
    })
    .refine(({ kind, value }) => kind !== 'answer' || value !== null, {
      message: 'Expected a number.',
    }),
  run: async ({ lab, actor, input, transaction, audit }): Promise<{ atOnce: boolean }> => {
    const { bench } = lab.store;
    const run = await activeRun(lab, input.benchRunId, transaction);
    await audit({
      act: `${input.kind} run`,
      subjectType: 'benchRun',
      subjectId: run.id,
      after: { value: input.value },
    });
    // Nobody drives it yet, or nobody ever will: it ends here.
    if (input.kind === 'stop' && (!run.driven || run.agent === null)) {
      await closeRun(
        lab,
        run.id,
        { reason: `${actor.name} stopped it.`, completed: false, at: lab.now() },
        transaction,
      );
      return { atOnce: true };
    }
    const agent =
      run.agent === null ? null : await bench.agents.one({ name: run.agent }, { transaction });
    const goneMs = agent ? lab.now().getTime() - agent.seenAt.getTime() : 0;
    if (input.kind === 'stop' && goneMs > AGENT_GONE_MS) {
      // When it comes back it is told to end the run, and switches the instruments off.
      await closeRun(
        lab,
        run.id,
        {
          reason: `${actor.name} stopped it while its agent was silent: switch the instruments off by hand.`,
          completed: false,
          at: lab.now(),
        },
        transaction,
      );
      return { atOnce: true };
    }
    if (!run.driven)
      throw new LabError('invalid', 'No agent drives this run; do it at the instrument.');
    const open = await bench.commands.one(
      { benchRunId: run.id, kind: input.kind, doneAt: null },
      { transaction },
    );
    // Asked for twice, by a double click or two people: once is enough.
    if (open && input.kind !== 'answer') return { atOnce: false };
    await bench.commands.insert(
      {
        benchRunId: run.id,
        kind: input.kind,
        value: input.value,
        personId: actor.id,
        personName: actor.name,
        at: lab.now(),
        doneAt: null,
      },
      transaction,
    );
    return { atOnce: false };
  },
});

/** Says that an alarm was seen; it stays in the books. */
export const acknowledgeAlarms = procedure({
  role: 'technician',
  input: z.object({ ids: z.array(z.int()).min(1).max(200) }),
  run: async ({ lab, actor, input, transaction, audit }): Promise<{ acknowledged: number }> => {
    const { alarms } = lab.store.bench;
    const rows = await alarms.find(
      { id: input.ids, acknowledgedAt: null },
      {
        transaction,
        forUpdate: true,
      },
    );
    if (rows.length === 0) return { acknowledged: 0 };
    await alarms.update(
      { acknowledgedAt: lab.now(), acknowledgedBy: actor.id },
      { id: rows.map(({ id }) => id) },
      transaction,
    );
    await audit({
      act: 'saw alarms',
      subjectType: 'bench',
      subjectId: 'alarms',
      after: rows.map(({ id, code, text }) => ({
        id,
        what: ALARMS[code as AlarmCode].title,
        text,
      })),
    });
    return { acknowledged: rows.length };
  },
});

/** Keeps what a hand meter showed at the terminals while a run was on. */
export const spotReading = procedure({
  role: 'technician',
  input: z
    .object({
      benchRunId: z.int(),
      quantity: z.enum(['voltage', 'temperature']),
      value: z.number('Expected a number.').finite(),
      instrumentId: z
        .int()
        .nullish()
        .transform((value) => value ?? null),
    })
    .refine(
      ({ quantity, value }) =>
        quantity === 'voltage' ? value >= -1 && value <= 10 : value >= -40 && value <= 150,
      {
        message: 'Expected a cell’s voltage of −1 to 10 V or a temperature of −40 to 150 °C.',
      },
    ),
  run: async ({ lab, actor, input, transaction, audit }): Promise<void> => {
    const { bench } = lab.store;
    const run = await activeRun(lab, input.benchRunId, transaction);
    const live = await bench.live.one({ benchRunId: run.id }, { transaction });
    const now = lab.now();
    await bench.spots.insert(
      {
        ...input,
        timeS:
          live?.timeS ?? (run.startedAt ? (now.getTime() - run.startedAt.getTime()) / 1000 : 0),
        shownV: live?.voltageV ?? null,
        shownA: live?.currentA ?? null,
        personId: actor.id,
        at: now,
      },
      transaction,
    );
    await audit({ act: 'spot reading', subjectType: 'benchRun', subjectId: run.id, after: input });
  },
});

/** Ends a run that no agent drives: what came of it is imported as a file or typed. */
export const finishByHand = procedure({
  role: 'technician',
  input: z.object({
    benchRunId: z.int(),
    runId: z
      .int()
      .nullish()
      .transform((value) => value ?? null),
    note: z.string().trim().max(300).default(''),
  }),
  run: async ({ lab, input, transaction, audit }): Promise<void> => {
    const { bench, runs } = lab.store;
    const run = await activeRun(lab, input.benchRunId, transaction);
    if (run.driven) throw new LabError('invalid', 'An agent drives this run; stop it instead.');
    if (input.runId !== null) {
      const evidence = found(
        await runs.one({ id: input.runId }, { transaction, columns: ['id', 'cellId'] }),
        'That log',
      );
      if (evidence.cellId !== run.cellId)
        throw new LabError('invalid', 'That log is of another cell.');
    }
    await closeRun(
      lab,
      run.id,
      { reason: input.note || 'Done at the instrument.', completed: true, at: lab.now() },
      transaction,
    );
    await bench.runs.update({ state: 'stored', runId: input.runId }, { id: run.id }, transaction);
    await audit({
      act: 'finished run by hand',
      subjectType: 'benchRun',
      subjectId: run.id,
      after: { runId: input.runId, note: input.note },
    });
  },
});
