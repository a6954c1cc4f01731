import { ACTIVE_RUN_STATES } from '@dusk-tally/core/bench';
import type { AgentOrders, AgentPoll, Assignment } from '@dusk-tally/core/bench';
import type { Chemistry } from '@dusk-tally/core/chemistry';
import type { BenchRunRow, Transaction } from '@dusk-tally/store';
import { z } from 'zod';
import { loadClaim } from '../lots';
import { type Lab, LabError, procedure } from '../shared';
import { type BenchChannel, benchChannels } from './bench-channels';
import { closeRun } from './close-run';
import { benchSettings } from './settings';

/** Another instance of an agent is held to be alive this long after it was heard, ms. */
const ALIVE_MS = 15_000;

export const agentPoll = z.object({
  agent: z
    .string()
    .regex(/^[a-z0-9][a-z0-9-]{0,39}$/, 'Expected a name of small letters, digits and dashes.'),
  instance: z.string().min(8).max(40),
  speed: z.number().min(0.1).max(2000),
  runs: z
    .array(z.object({ run: z.int().min(1), lastSeq: z.int().min(0), phase: z.string().max(20) }))
    .max(1024),
  done: z.array(z.int()).max(1024),
}) satisfies z.ZodType<AgentPoll>;

/** What an agent is to do next; it says what it has. */
export const agentOrders = procedure({
  role: 'technician',
  input: agentPoll,
  run: async ({ lab, input, transaction }): Promise<AgentOrders> => {
    const { bench } = lab.store;
    const now = lab.now();
    await requireOnlyOne(lab, input, now, transaction);
    if (input.done.length > 0)
      await bench.commands.update({ doneAt: now }, { id: input.done, doneAt: null }, transaction);
    const has = new Map(input.runs.map((run) => [run.run, run]));
    const mine = await bench.runs.find(
      { driven: true, agent: input.agent, state: ACTIVE_RUN_STATES },
      { transaction },
    );
    const channels = new Map(
      (await benchChannels(lab, transaction)).map((channel) => [channel.id, channel]),
    );
    const start: Assignment[] = [];
    for (const run of mine) {
      if (has.has(run.id)) continue;
      const live = await bench.live.one({ benchRunId: run.id }, { transaction });
      if (live && live.lastSeq > 0)
        // It had begun: an agent that does not know it any more has lost its journal.
        await closeRun(
          lab,
          run.id,
          { reason: 'The agent lost its journal; the run was ended.', completed: false, at: now },
          transaction,
        );
      else
        start.push(
          ...assignmentOf(await withCell(lab, run, transaction), channels.get(run.channelId ?? 0)),
        );
    }
    start.push(...(await handOut(lab, input, channels, transaction)));
    const commands = await bench.commands.find(
      { doneAt: null, benchRunId: [...has.keys()] },
      { transaction, order: [['id', 'ASC']] },
    );
    const { silenceLimitS } = await benchSettings(lab, transaction);
    return {
      start,
      commands: commands.map(({ id, benchRunId, kind, value, personName }) => ({
        id,
        run: benchRunId,
        kind,
        value,
        by: personName,
      })),
      drop: await toDrop(lab, input, [...has.keys()], transaction),
      silenceLimitS,
    };
  },
});

/** Two agents of one name would both drive what is one’s. */
async function requireOnlyOne(
  lab: Lab,
  { agent, instance, speed }: AgentPoll,
  now: Date,
  transaction: Transaction,
): Promise<void> {
  const { agents } = lab.store.bench;
  const known = await agents.one({ name: agent }, { transaction, forUpdate: true });
  if (known && known.instance !== instance && now.getTime() - known.seenAt.getTime() < ALIVE_MS)
    throw new LabError(
      'conflict',
      `Another agent named ${agent} was heard ${Math.round((now.getTime() - known.seenAt.getTime()) / 1000)} s ago. Give this one another name, or wait until that one is gone.`,
    );
  await agents.replaceMany([{ name: agent, instance, speed, seenAt: now }], transaction);
}

type WithCell = BenchRunRow & { cell: string; chemistry: Chemistry; capacityAh: number | null };

const withCell = async (
  lab: Lab,
  run: BenchRunRow,
  transaction: Transaction,
): Promise<WithCell> => ({
  ...run,
  cell: (await lab.store.cells.one({ id: run.cellId }, { transaction, columns: ['number'] }))!
    .number,
  chemistry: (await loadClaim(lab, run.lotId, transaction)).model.chemistry,
  capacityAh:
    (
      await lab.store.verdicts.assessments.one(
        { cellId: run.cellId, item: 'capacity' },
        { transaction, columns: ['cellId', 'value'] },
      )
    )?.value ?? null,
});

function assignmentOf(run: WithCell, channel: BenchChannel | undefined): Assignment[] {
  if (!channel?.wiring) return [];
  return [
    {
      run: run.id,
      channel: { id: channel.id, title: channel.title, wiring: channel.wiring },
      cell: run.cell,
      program: run.program,
      limits: run.limits,
      everyMs: Math.max(200, channel.limits.reportS * 1000),
      counterAh: run.counterAh,
      expected: {
        chemistry: run.chemistry,
        ratedAh: run.expectedAh,
        stateOfCharge: run.startSoc,
        capacityAh: run.capacityAh,
      },
    },
  ];
}

/** Gives runs that wait to the first agent that may have them. */
async function handOut(
  lab: Lab,
  { agent, speed }: AgentPoll,
  channels: ReadonlyMap<number, BenchChannel>,
  transaction: Transaction,
): Promise<Assignment[]> {
  const { bench } = lab.store;
  const ready = await bench.runs.find(
    { driven: true, state: 'ready', agent: null },
    { transaction, forUpdate: true, order: [['id', 'ASC']] },
  );
  const given: Assignment[] = [];
  for (const run of ready) {
    const channel = channels.get(run.channelId ?? 0);
    if (!channel?.wiring || (channel.agent !== null && channel.agent !== agent)) continue;
    const taken = await bench.runs.update(
      {
        agent,
        speed,
        limits: { ...run.limits, intervalS: run.limits.intervalS * speed },
        version: run.version + 1,
      },
      { id: run.id, agent: null },
      transaction,
    );
    if (taken === 1)
      given.push(
        ...assignmentOf(
          await withCell(
            lab,
            { ...run, limits: { ...run.limits, intervalS: run.limits.intervalS * speed } },
            transaction,
          ),
          channel,
        ),
      );
  }
  return given;
}

/** Runs the agent has that are not its, or over. */
async function toDrop(
  lab: Lab,
  { agent, runs: polled }: AgentPoll,
  ids: readonly number[],
  transaction: Transaction,
): Promise<AgentOrders['drop']> {
  if (ids.length === 0) return [];
  const rows = new Map(
    (await lab.store.bench.runs.find({ id: [...ids] }, { transaction })).map((row) => [
      row.id,
      row,
    ]),
  );
  return polled.flatMap(({ run, phase }) => {
    const row = rows.get(run);
    if (!row) return [{ run, reason: 'The app does not know this run.' }];
    if (row.agent !== agent) return [{ run, reason: 'Another agent has it.' }];
    // Ended here though it runs there: closed because its journal was taken for lost.
    return (row.state === 'ended' || row.state === 'stored') && phase !== 'ended'
      ? [{ run, reason: row.endReason ?? 'It was ended.' }]
      : [];
  });
}
