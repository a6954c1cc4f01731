import { dayIn } from '@dusk-tally/core/units';
import { labTimeZone } from '../lots';
import { DUE, type DueItem, type Lab } from '../shared';
import { shelfLines } from './shelf';

export type RestingDue = 'shelf' | 'toTriage';

/** Cells found below their cut-off while they stood, until their voltage was read anew for triage. */
async function dueTriage(lab: Lab): Promise<DueItem<RestingDue>[]> {
  const low = await lab.store.resting.rests.find({ outcome: 'belowCutoff', takenOff: false });
  if (low.length === 0) return [];
  const cellIds = [...new Set(low.map(({ cellId }) => cellId))];
  const anew = await lab.store.readings.find(
    { cellId: cellIds, kind: 'openCircuitVoltage', purpose: 'arrival' },
    { columns: ['cellId', 'at'] },
  );
  const open = low.filter(
    ({ cellId, endedAt }) => !anew.some((one) => one.cellId === cellId && one.at > endedAt!),
  );
  const byLot = new Map<string, DueItem<RestingDue>>();
  for (const { lot, cell } of await shelfLines(lab, open)) {
    const known = byLot.get(lot.code);
    const count = (known?.count ?? 0) + 1;
    byLot.set(lot.code, {
      ...DUE,
      key: `low on the shelf ${lot.code}`,
      stage: 'resting',
      kind: 'toTriage',
      urgency: 'now',
      lot: { code: lot.code, title: lot.title },
      count,
      of: count,
      note: known ? `${known.note}, ${cell}` : cell,
      path: `/lots/${lot.code}/arrival/readings`,
    });
  }
  return [...byLot.values()];
}

/** What the shelf waits for: readings, one item a lot and day, and cells that go to triage. */
export async function dueResting(lab: Lab): Promise<DueItem<RestingDue>[]> {
  const standing = await lab.store.resting.rests.find({ endedAt: null });
  // Cells of a lot that was called off are nobody’s to read.
  const lots = await lab.store.lots.find(
    { id: [...new Set(standing.map(({ lotId }) => lotId))], cancelledAt: null },
    { columns: ['id'] },
  );
  const goOn = new Set(lots.map(({ id }) => id));
  const open = standing.filter(({ lotId }) => goOn.has(lotId));
  const timeZone = await labTimeZone(lab);
  const byDay = new Map<string, DueItem<RestingDue>>();
  for (const { lot, dueAt, state } of await shelfLines(lab, open)) {
    const day = dayIn(timeZone, dueAt);
    const key = `shelf ${lot.code} ${day}`;
    const known = byDay.get(key);
    const count = (known?.count ?? 0) + 1;
    byDay.set(key, {
      ...DUE,
      key,
      stage: 'resting',
      kind: 'shelf',
      urgency: state === 'early' ? 'canWait' : 'now',
      lot: { code: lot.code, title: lot.title },
      count,
      of: count,
      note: `Read ${count} ${count === 1 ? 'cell' : 'cells'} of ${lot.code} on the shelf`,
      at: known?.at && known.at < dueAt ? known.at : dueAt,
      path: '/shelf',
    });
  }
  return [...(await dueTriage(lab)), ...byDay.values()];
}
