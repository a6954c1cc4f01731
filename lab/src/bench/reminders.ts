import { courseS } from '@dusk-tally/core/bench';
import { z } from 'zod';
import { type Lab, question } from '../shared';
import { leftDischarged } from './left-discharged';
import { courseOfRun } from './run-progress';

/** A step that should have ended longer ago is no longer spoken of, ms. */
const STALE_MS = 12 * 3_600_000;

/** Something to look after at a run nobody drives, or a cell left at its cut-off. */
export interface Reminder {
  benchRunId: number;
  cell: string;
  at: string;
  text: string;
  isOverdue: boolean;
  kind: 'step' | 'end' | 'recharge';
}

const WORDS: Record<string, string> = {
  charge: 'should be full',
  discharge: 'should be near its cut-off',
  rest: 'has rested',
  toStorage: 'should be at storage voltage',
};

/** What the app keeps in mind for runs without wires, and cells that wait for their recharge. */
export async function dueReminders(lab: Lab): Promise<Reminder[]> {
  const { bench, cells } = lab.store;
  const now = lab.now();
  const byHand = await bench.runs.find({ driven: false, state: 'running' });
  const [discharged, logs] = await Promise.all([
    leftDischarged(lab),
    lab.store.hand.logs.find(
      { benchRunId: byHand.map(({ id }) => id) },
      { columns: ['id', 'benchRunId'] },
    ),
  ]);
  // Points that are read tell it better than a recipe does.
  const logged = new Set(logs.map(({ benchRunId }) => benchRunId));
  const rows = [...byHand, ...discharged];
  if (rows.length === 0) return [];
  const number = new Map(
    (
      await cells.find(
        { id: [...new Set(rows.map(({ cellId }) => cellId))] },
        {
          columns: ['id', 'number'],
        },
      )
    ).map((cell) => [cell.id, cell.number]),
  );
  const list: Reminder[] = [];
  for (const run of byHand) {
    const course = courseOfRun(run);
    const startMs = (run.startedAt ?? run.createdAt).getTime();
    const cell = number.get(run.cellId) ?? '';
    for (const part of course) {
      const atMs = startMs + part.toS * 1000;
      const words = part.kind === 'discharge' && logged.has(run.id) ? undefined : WORDS[part.kind];
      const isLast = part.toS === courseS(course);
      // A run that should be over is kept in mind until somebody says so.
      if (!words || (!isLast && atMs < now.getTime() - STALE_MS)) continue;
      list.push({
        benchRunId: run.id,
        cell,
        at: new Date(atMs).toISOString(),
        text: `${cell} ${words}${isLast ? ': the last step' : ''}`,
        isOverdue: atMs < now.getTime(),
        kind: isLast ? 'end' : 'step',
      });
    }
  }
  for (const { benchRunId, cellId, due } of discharged)
    list.push({
      benchRunId,
      cell: number.get(cellId) ?? '',
      at: due.toISOString(),
      text: `${number.get(cellId) ?? ''} was left discharged and ages: charge it to storage voltage`,
      isOverdue: due < now,
      kind: 'recharge',
    });
  return list.sort((a, b) => a.at.localeCompare(b.at));
}

export const reminders = question({
  role: 'technician',
  input: z.object({}),
  run: (lab) => dueReminders(lab),
});
