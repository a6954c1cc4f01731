/** A short message at the edge of the page. */
export interface Message {
  id: number;
  text: string;
  /** How long it stays, ms. */
  stays: number;
  /** What can be done about it meanwhile. */
  offer: { label: string; act: () => void } | null;
}

const STAYS_MS = 4000;

let last = 0;
/** Not shown yet by what shows them. */
let waiting: readonly Message[] = [];
const watchers = new Set<() => void>();

function change(next: readonly Message[]): void {
  waiting = next;
  for (const watcher of watchers) watcher();
}

/** Says something in short at the edge of the page. */
export function say(text: string, { stays = STAYS_MS, offer = null }: Partial<Message> = {}): void {
  change([...waiting, { id: (last += 1), text, stays, offer }]);
}

/** What was said and is shown by nobody yet. */
export const messages = {
  waiting: () => waiting,
  watch: (watcher: () => void) => {
    watchers.add(watcher);
    return () => void watchers.delete(watcher);
  },
  done: (id: number) => change(waiting.filter((each) => each.id !== id)),
};
