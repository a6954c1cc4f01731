import type { LotDayRow, Transaction } from '@dusk-tally/store';
import { z } from 'zod';
import { labDay } from '../lots';
import { type Lab, question } from '../shared';

/** How a lot’s capacities stand now; null for a lot of which no cell is judged. */
async function standsNow(
  lab: Lab,
  lotId: number,
  transaction?: Transaction,
): Promise<LotDayRow | null> {
  const [rows, day] = await Promise.all([
    lab.store.verdicts.lotCapacityStates(lotId, transaction),
    labDay(lab, transaction),
  ]);
  if (rows.length === 0) return null;
  const count = (state: (typeof rows)[number]['state']) =>
    Number(rows.find((row) => row.state === state)?.count ?? 0);
  const told = {
    met: count('met'),
    notMet: count('notMet'),
    tooClose: count('tooClose'),
    held: count('held'),
  };
  const all = rows.reduce((sum, row) => sum + Number(row.count), 0);
  return {
    lotId,
    day,
    ...told,
    open: all - told.met - told.notMet - told.tooClose - told.held,
  };
}

/** Keeps how a lot’s capacities stand today: of each day the last is what stays. */
export async function noteDay(lab: Lab, lotId: number, transaction: Transaction): Promise<void> {
  const row = await standsNow(lab, lotId, transaction);
  if (row) await lab.store.grading.days.replaceMany([row], transaction);
}

/** So many days are told, the newest last. */
const MOST_DAYS = 120;

/** How the verdict of a lot grew, a line a day on which something of it came to stand elsewhere. */
export const lotDays = question({
  role: 'technician',
  input: z.object({ lotId: z.int() }),
  run: async (lab, { lotId }): Promise<LotDayRow[]> => {
    const [rows, now] = await Promise.all([
      lab.store.grading.days.find({ lotId }, { order: [['day', 'DESC']], limit: MOST_DAYS }),
      standsNow(lab, lotId),
    ]);
    // Today is told as it stands, whoever wrote last.
    const told = [
      ...rows.filter(({ day }) => day !== now?.day).reverse(),
      ...(now === null ? [] : [now]),
    ];
    return told.filter((row, i) => i === 0 || !isAlike(row, told[i - 1]!));
  },
});

const isAlike = (a: LotDayRow, b: LotDayRow): boolean =>
  (['met', 'notMet', 'tooClose', 'held', 'open'] as const).every((key) => a[key] === b[key]);
