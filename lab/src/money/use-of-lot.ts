import { minutesOfActs } from '@dusk-tally/core/money';
import type { LotRow } from '@dusk-tally/store';
import type { Lab } from '../shared';

/** Hours channels were taken by a lot, and energy its cells gave there, kWh. */
export async function benchUse(
  lab: Lab,
  lotId: number,
  nominalV: number,
): Promise<{ benchHours: number; dischargedKwh: number }> {
  const [runs, driven] = await Promise.all([
    lab.store.runs.find({ lotId }, { columns: ['id', 'durationS', 'summary'] }),
    // Runs that became evidence are among the others already.
    lab.store.bench.runs.find(
      { lotId, runId: null, state: ['ended', 'stored'] },
      { columns: ['startedAt', 'endedAt'] },
    ),
  ]);
  const hours = runs.reduce((sum, { durationS }) => sum + durationS / 3600, 0);
  const withoutLog = driven.reduce(
    (sum, { startedAt, endedAt }) =>
      sum + (startedAt && endedAt ? (endedAt.getTime() - startedAt.getTime()) / 3_600_000 : 0),
    0,
  );
  const dischargedAh = runs.reduce((sum, { summary }) => sum + (summary.dischargedAh ?? 0), 0);
  return {
    benchHours: hours + withoutLog,
    dischargedKwh: (dischargedAh * nominalV) / 1000,
  };
}

/** Own minutes the times of acts on a lot and its cells tell of; the system’s own acts are none. */
export async function proposedMinutes(lab: Lab, { id, code }: LotRow): Promise<number> {
  const cells = await lab.store.cells.find({ lotId: id }, { columns: ['number'] });
  const [ofLot, ofCells] = await Promise.all([
    lab.store.auditEntries.find(
      { subjectType: 'lot', subjectId: code },
      { columns: ['personId', 'at'] },
    ),
    lab.store.auditEntries.find(
      { subjectType: 'cell', subjectId: cells.map(({ number }) => number) },
      { columns: ['personId', 'at'] },
    ),
  ]);
  return Math.round(minutesOfActs([...ofLot, ...ofCells].flatMap(personal)));
}

const personal = ({ personId, at }: { personId: number | null; at: Date }) =>
  personId === null ? [] : [{ personId, at }];
