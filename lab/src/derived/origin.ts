import type { Change } from '../shared';

/** One judged item of a cell, as it stood before and after. */
export interface MovedItem {
  cellId: number;
  item: string;
  before: Stand;
  after: Stand;
}

export interface Stand {
  state: string;
  value: number | null;
}

/** What one act set going: what it changed, and what that moved in lots it was not about. */
export class Origin {
  private readonly moved = new Map<number, Map<string, MovedItem>>();

  constructor(readonly changes: readonly Change[]) {}

  /** Whether the act was about this lot; acts on rules are about no lot in particular. */
  isAbout(lotId: number): boolean {
    return this.changes.some((change) => change.lotId === lotId);
  }

  /** Notes that an item of a lot stands elsewhere; over several passes the first and the last count. */
  note(lotId: number, moved: MovedItem): void {
    const items = this.moved.get(lotId) ?? new Map<string, MovedItem>();
    this.moved.set(lotId, items);
    const key = `${moved.cellId} ${moved.item}`;
    items.set(key, { ...moved, before: items.get(key)?.before ?? moved.before });
  }

  /** What stands elsewhere now than when the act began, lot by lot. */
  movedLots(): Map<number, MovedItem[]> {
    const isElsewhere = ({ before, after }: MovedItem) =>
      before.state !== after.state || before.value !== after.value;
    return new Map(
      [...this.moved].flatMap(([lotId, items]): [number, MovedItem[]][] => {
        const own = [...items.values()].filter(isElsewhere);
        return own.length > 0 ? [[lotId, own]] : [];
      }),
    );
  }
}
