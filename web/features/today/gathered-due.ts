import type { PressingDue } from '@dusk-tally/lab/today';

/** Place of what is of no lot. */
export const LAB_PLACE = 'lab';

/** What comes later than this is not shown yet, ms. */
const AHEAD_MS = 12 * 3_600_000;
/** Testers read by hand are told when they come near; the calendar has them all, ms. */
const HAND_AHEAD_MS = 3_600_000;
/** So many cells to connect are told one by one; more are one thing to do. */
const FEW = 2;

export interface DuePlace {
  /** Code of the lot, or `LAB_PLACE`. */
  place: string;
  title: string;
  items: PressingDue[];
}

/** Cells to be connected within the next hours, many of them as one item. */
function connections(items: readonly PressingDue[], now: Date): PressingDue[] {
  const soon = items
    .filter(({ kind, at }) => kind === 'connect' && at!.getTime() - now.getTime() < AHEAD_MS)
    .sort((a, b) => a.at!.getTime() - b.at!.getTime());
  return soon.length <= FEW
    ? soon
    : [
        {
          ...soon[0]!,
          key: 'connect together',
          count: soon.length,
          note: `${soon.length} cells are to be connected, the first`,
        },
      ];
}

/**
 * Items of one urgency, lot by lot in the order of their most pressing one; what is of no lot
 * comes first. What is more than twelve hours off is left out.
 */
export function gatheredDue(items: readonly PressingDue[], now: Date = new Date()): DuePlace[] {
  const places = new Map<string, DuePlace>();
  const add = (item: PressingDue) => {
    const place = item.lot?.code ?? LAB_PLACE;
    const own = places.get(place) ?? { place, title: item.lot?.title ?? 'The lab', items: [] };
    own.items.push(item);
    places.set(place, own);
  };
  for (const item of items) {
    const isHand = item.kind === 'point' || item.kind === 'beThere';
    const isFar =
      item.stage === 'bench' &&
      item.at &&
      item.at.getTime() - now.getTime() > (isHand ? HAND_AHEAD_MS : AHEAD_MS);
    if (item.kind !== 'connect' && !isFar) add(item);
  }
  connections(items, now).forEach(add);
  return [...places.values()].sort(
    (a, b) => Number(b.place === LAB_PLACE) - Number(a.place === LAB_PLACE),
  );
}
