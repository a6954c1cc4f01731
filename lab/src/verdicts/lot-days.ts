import type { LotDayRow, Transaction } from '@dusk-tally/store';
import { z } from 'zod';
import { labDay } from '../lots';
import { type Lab, question } from '../shared';

/** Keeps how a lot’s capacities stand today: of each day the last is what stays. */
export async function noteDay(lab: Lab, lotId: number, transaction: Transaction): Promise<void> {
  const { assessments } = lab.store.verdicts;
  const count = (state: 'met' | 'notMet' | 'tooClose' | 'held') =>
    assessments.count({ lotId, item: 'capacity', state }, transaction);
  const [all, met, notMet, tooClose, held, day] = await Promise.all([
    assessments.count({ lotId, item: 'capacity' }, transaction),
    count('met'),
    count('notMet'),
    count('tooClose'),
    count('held'),
    labDay(lab, transaction),
  ]);
  if (all === 0) return;
  await lab.store.grading.days.replaceMany(
    [{ lotId, day, met, notMet, tooClose, held, open: all - met - notMet - tooClose - held }],
    transaction,
  );
}

/** So many days are told, the newest last. */
const MOST_DAYS = 120;

/** How the verdict of a lot grew, a line a day on which something of it was worked out. */
export const lotDays = question({
  role: 'technician',
  input: z.object({ lotId: z.int() }),
  run: async (lab, { lotId }): Promise<LotDayRow[]> => {
    const rows = await lab.store.grading.days.find(
      { lotId },
      { order: [['day', 'DESC']], limit: MOST_DAYS },
    );
    const told = rows.reverse();
    // A day on which nothing came to stand elsewhere adds no line.
    return told.filter((row, i) => i === 0 || !isAlike(row, told[i - 1]!));
  },
});

const isAlike = (a: LotDayRow, b: LotDayRow): boolean =>
  (['met', 'notMet', 'tooClose', 'held', 'open'] as const).every((key) => a[key] === b[key]);
