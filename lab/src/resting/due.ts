import { dayIn } from '@dusk-tally/core/units';
import { labTimeZone } from '../lots';
import { DUE, type DueItem, type Lab } from '../shared';
import { shelfLines } from './shelf';

export type RestingDue = 'shelf';

/** What is to be read on the shelf: one item a lot and day. */
export async function dueResting(lab: Lab): Promise<DueItem<RestingDue>[]> {
  const open = await lab.store.resting.rests.find({ endedAt: null });
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
  return [...byDay.values()];
}
