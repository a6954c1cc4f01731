import { DUE, type DueItem, type Lab } from '../shared';
import { benchChannels } from './bench-channels';
import { openAlarms } from './open-alarms';
import { loadProblem } from './problem';
import { dueReminders } from './reminders';

export type BenchDue = 'alarm' | 'setAside' | 'look' | 'recharge' | 'connect';

/** Time it takes to connect a cell, ms. */
const CONNECTING_MS = 15 * 60_000;

/** Alarms nobody has seen, alike ones together, those that stopped something first. */
async function dueAlarms(lab: Lab): Promise<DueItem<BenchDue>[]> {
  const alarms = await openAlarms(lab, await benchChannels(lab));
  const alike = new Map<string, typeof alarms>();
  for (const alarm of alarms) {
    const key = `${alarm.code} ${alarm.action}`;
    alike.set(key, [...(alike.get(key) ?? []), alarm]);
  }
  return [...alike].map(([key, group]) => {
    const { action, cell, title, text } = group[0]!;
    return {
      ...DUE,
      key: `alarm ${key}`,
      stage: 'bench',
      kind: 'alarm',
      urgency: action === 'tell' ? 'now' : 'danger',
      count: group.length,
      of: group.length,
      note: `${cell}${group.length > 1 ? ` and ${group.length - 1} more` : ''}: ${title}. ${text}`,
      path: '/bench',
    };
  });
}

/** Runs without wires that want a look, and cells that wait for their recharge. */
async function dueLooks(lab: Lab): Promise<DueItem<BenchDue>[]> {
  return (await dueReminders(lab)).map(({ benchRunId, at, text, kind }) => ({
    ...DUE,
    key: `${kind} ${benchRunId} ${at}`,
    stage: 'bench',
    kind: kind === 'recharge' ? 'recharge' : 'look',
    urgency: 'now',
    note: text,
    at: new Date(at),
    path: `/bench/runs/${benchRunId}`,
  }));
}

/** Cells to be connected as planned, with the time they must be watched. */
async function dueConnections(lab: Lab): Promise<DueItem<BenchDue>[]> {
  if ((await lab.store.bench.jobs.count({ state: 'planned' })) === 0) return [];
  const { jobs, channels, problem, unfit } = await loadProblem(lab);
  const cannot = new Set(unfit.map(({ job }) => job));
  const cells = new Map(
    (
      await lab.store.cells.find(
        { id: jobs.map(({ cellId }) => cellId) },
        { columns: ['id', 'number'] },
      )
    ).map((cell) => [cell.id, cell.number]),
  );
  const titles = new Map(channels.map(({ id, title }) => [id, title]));
  const planned = new Map(problem.jobs.map((job) => [job.id, job]));
  // What its lot no longer lets run is said by the plan, and by its lot.
  return jobs
    .filter(({ id }) => !cannot.has(id))
    .flatMap((job) =>
      job.parts.map((part, i): DueItem<BenchDue> => {
        const at = new Date(part.from);
        const share = planned.get(job.id)?.legs[i]?.attendedShare ?? 0;
        const watchedMs = share * (Date.parse(part.to) - at.getTime());
        return {
          ...DUE,
          key: `job ${job.id} ${i}`,
          stage: 'bench',
          kind: 'connect',
          urgency: 'canWait',
          note: `${watchedMs > 0 ? 'Connect and watch' : 'Connect'} ${cells.get(job.cellId) ?? ''} on ${titles.get(part.channelId) ?? ''}`,
          at,
          until: new Date(at.getTime() + Math.max(CONNECTING_MS, watchedMs)),
          path: '/bench/plan',
        };
      }),
    );
}

/** Records that were set aside and nobody has seen. */
async function dueSetAside(lab: Lab): Promise<DueItem<BenchDue>[]> {
  const count = await lab.store.bench.refusals.count({ seenAt: null });
  if (count === 0) return [];
  return [
    {
      ...DUE,
      key: 'records set aside',
      stage: 'bench',
      kind: 'setAside',
      urgency: 'now',
      count,
      of: count,
      note: `${count} ${count === 1 ? 'record' : 'records'} of runs could not be taken and ${count === 1 ? 'was' : 'were'} set aside`,
      path: '/bench',
    },
  ];
}

/** What the bench waits for. */
export async function dueBench(lab: Lab): Promise<DueItem<BenchDue>[]> {
  const [alarms, aside, looks, connections] = await Promise.all([
    dueAlarms(lab),
    dueSetAside(lab),
    dueLooks(lab),
    dueConnections(lab),
  ]);
  return [...alarms, ...aside, ...looks, ...connections];
}
