import { type AlarmCode, ALARMS } from '@dusk-tally/core/bench';
import type { BenchAlarmRow } from '@dusk-tally/store';
import type { Lab } from '../shared';

export interface AlarmView extends Omit<BenchAlarmRow, 'cellId' | 'acknowledgedBy'> {
  cell: string;
  title: string;
  advice: string;
  channel: string | null;
  acknowledgedBy: string | null;
}

export async function openAlarms(
  lab: Lab,
  channels: readonly { id: number; title: string }[],
): Promise<AlarmView[]> {
  const { bench, cells, people } = lab.store;
  const rows = await bench.alarms.find(
    { acknowledgedAt: null },
    { order: [['id', 'DESC']], limit: 200 },
  );
  if (rows.length === 0) return [];
  const [own, runs, persons] = await Promise.all([
    cells.find(
      { id: [...new Set(rows.map(({ cellId }) => cellId))] },
      {
        columns: ['id', 'number'],
      },
    ),
    bench.runs.find(
      { id: [...new Set(rows.map(({ benchRunId }) => benchRunId))] },
      {
        columns: ['id', 'channelId'],
      },
    ),
    people.find({}, { columns: ['id', 'name'] }),
  ]);
  const number = new Map(own.map((cell) => [cell.id, cell.number]));
  const channelOf = new Map(runs.map((run) => [run.id, run.channelId]));
  const titles = new Map(channels.map(({ id, title }) => [id, title]));
  const names = new Map(persons.map(({ id, name }) => [id, name]));
  return rows.map(({ cellId, acknowledgedBy, ...row }) => ({
    ...row,
    cell: number.get(cellId) ?? '',
    title: ALARMS[row.code as AlarmCode].title,
    advice: ALARMS[row.code as AlarmCode].advice,
    channel: titles.get(channelOf.get(row.benchRunId) ?? 0) ?? null,
    acknowledgedBy: acknowledgedBy === null ? null : (names.get(acknowledgedBy) ?? null),
  }));
}
