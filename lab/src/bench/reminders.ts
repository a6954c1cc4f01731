import { courseS, expectedCourse } from '@dusk-tally/core/bench';
import { Op } from '@dusk-tally/store';
import { z } from 'zod';
import { question } from '../shared';
import { lotConditions } from './conditions';

/** A discharged cell is to be charged again within this, ms (handbook, chapter 2). */
const RECHARGE_WITHIN_MS = 30 * 60_000;

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
export const reminders = question({
  role: 'technician',
  input: z.object({}),
  run: async (lab): Promise<Reminder[]> => {
    const { bench, cells } = lab.store;
    const now = lab.now();
    const byHand = await bench.runs.find({ driven: false, state: 'running' });
    const ended = await bench.runs.find(
      {
        state: ['ended', 'stored'],
        endedAt: { [Op.gt]: new Date(now.getTime() - 48 * 3_600_000) },
      } as never,
      { order: [['id', 'DESC']], limit: 200 },
    );
    const rows = [...byHand, ...ended];
    if (rows.length === 0) return [];
    const number = new Map(
      (
        await cells.find({ id: [...new Set(rows.map(({ cellId }) => cellId))] } as never, {
          columns: ['id', 'number'],
        })
      ).map((cell) => [cell.id, cell.number]),
    );
    const list: Reminder[] = [];
    for (const run of byHand) {
      const { chemistry } = await lotConditions(lab, run.lotId);
      const course = expectedCourse(run.program, {
        chemistry,
        capacityAh: run.expectedAh,
        stateOfCharge: run.startSoc,
        tauS: null,
      });
      const startMs = (run.startedAt ?? run.createdAt).getTime();
      const cell = number.get(run.cellId) ?? '';
      for (const part of course) {
        const atMs = startMs + part.toS * 1000;
        const words = WORDS[part.kind];
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
    const later = new Map<number, number>();
    for (const run of rows) later.set(run.cellId, Math.max(later.get(run.cellId) ?? 0, run.id));
    for (const run of ended) {
      const live = await bench.live.one({ benchRunId: run.id });
      const step = run.program[live?.step ?? -1] ?? run.program[run.program.length - 1];
      const low =
        live?.voltageV !== null && live?.voltageV !== undefined && step?.kind === 'discharge';
      if (!low || later.get(run.cellId) !== run.id) continue;
      const atMs = run.endedAt!.getTime() + RECHARGE_WITHIN_MS;
      const cell = number.get(run.cellId) ?? '';
      list.push({
        benchRunId: run.id,
        cell,
        at: new Date(atMs).toISOString(),
        text: `${cell} was left discharged and ages: charge it to storage voltage`,
        isOverdue: atMs < now.getTime(),
        kind: 'recharge',
      });
    }
    return list.sort((a, b) => a.at.localeCompare(b.at));
  },
});
