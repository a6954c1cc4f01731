import type { ReadingPurpose } from '@dusk-tally/core/arrivals';
import { BLANK, type Clash, type Entry, entryOf, keyOf } from './entry-columns';
import { isAsked } from './grid-judge';

/** A place of the grid. */
export interface Place {
  row: number;
  column: number;
}

type Changes = [key: string, entry: Entry][];

/** Everything the grid remembers. */
export interface Grid {
  entries: ReadonlyMap<string, Entry>;
  /** What stood at places whose value is asked about or not understood, before it was typed. */
  asked: ReadonlyMap<string, Entry>;
  /** What can be taken back, newest last; a paste is one step. */
  history: readonly Changes[];
  /** Voltages of purposes that are not shown now, as they were left. */
  left: ReadonlyMap<ReadingPurpose, Changes>;
  /** Pasted values that had no place, by how many. */
  unplaced: number;
}

/** What an act made of the grid, and what is to be stored by it. */
export interface Step {
  grid: Grid;
  send: Changes;
  /** Whether the hand may move on. */
  moves: boolean;
}

export const gridOf = (entries: Changes): Grid => ({
  entries: new Map(entries),
  asked: new Map(),
  history: [],
  left: new Map(),
  unplaced: 0,
});

/** The same grid with some entries others. */
export const placed = (grid: Grid, changes: Changes): Grid => ({
  ...grid,
  entries: new Map([...grid.entries, ...changes]),
});

const without = <Value>(map: ReadonlyMap<string, Value>, key: string): Map<string, Value> => {
  const next = new Map(map);
  next.delete(key);
  return next;
};

export type Judge = (place: Place, text: string, among: ReadonlyMap<string, Entry>) => Entry;

/**
 * Keeps what was typed at one place: stored, asked about, or said to be wrong. The same text again
 * on a question is the answer “keep it”.
 */
export function commit(grid: Grid, place: Place, text: string, judge: Judge): Step {
  const key = keyOf(place.row, place.column);
  const before = grid.entries.get(key) ?? BLANK;
  // A clash is answered by its own buttons; typing on is an answer, too: another value.
  const isSame = text.trim() === before.text;
  if (isSame && before.clash) return { grid, send: [], moves: false };
  if (isSame && !before.problem && !isAsked(before)) return { grid, send: [], moves: true };
  const after: Entry =
    isAsked(before) && isSame ? { ...before, kept: true } : judge(place, text, grid.entries);
  const shown = placed(grid, [[key, after]]);
  // A value under question is not stored; what stood here before it is what undo brings back.
  const stored = grid.asked.get(key) ?? before;
  if (after.problem || isAsked(after))
    return {
      grid: { ...shown, asked: new Map([...grid.asked, [key, stored]]) },
      send: [],
      moves: false,
    };
  const answered = { ...shown, asked: without(grid.asked, key) };
  if (after.value === stored.value) return { grid: answered, send: [], moves: true };
  return {
    grid: { ...answered, history: [...grid.history, [[key, stored]]] },
    send: [[key, after]],
    moves: true,
  };
}

/** Fills from a place on with what was copied elsewhere; what has no place is counted. */
export function paste(
  grid: Grid,
  place: Place,
  texts: readonly (readonly string[])[],
  size: { rows: number; columns: number },
  judge: Judge,
): Step {
  const among = new Map(grid.entries);
  const asked = new Map(grid.asked);
  const undone: Changes = [];
  const send: Changes = [];
  let unplaced = 0;
  texts.forEach((line, r) =>
    line.forEach((text, c) => {
      if (text.trim() === '') return;
      const at = { row: place.row + r, column: place.column + c };
      if (at.row >= size.rows || at.column >= size.columns) return void unplaced++;
      const key = keyOf(at.row, at.column);
      const before = asked.get(key) ?? among.get(key) ?? BLANK;
      const after = judge(at, text, among);
      among.set(key, after);
      if (after.problem || isAsked(after)) return void asked.set(key, before);
      asked.delete(key);
      if (after.value === before.value) return;
      undone.push([key, before]);
      send.push([key, after]);
    }),
  );
  return {
    grid: {
      ...grid,
      entries: among,
      asked,
      history: undone.length > 0 ? [...grid.history, undone] : grid.history,
      unplaced: grid.unplaced + unplaced,
    },
    send,
    moves: false,
  };
}

/** Takes the last step back; a paste at once. @returns the first place of it, null where none is. */
export function undo(grid: Grid): Step & { at: Place | null } {
  const last = grid.history.at(-1);
  if (!last) return { grid, send: [], moves: false, at: null };
  const [row, column] = last[0]![0].split(':').map(Number) as [number, number];
  return {
    grid: { ...placed(grid, last), history: grid.history.slice(0, -1) },
    send: last,
    moves: false,
    at: { row, column },
  };
}

/** Lets columns go; what was typed in them cannot be taken back from here any more. */
export function keepColumns(grid: Grid, stays: (column: number) => boolean): Grid {
  const isKept = (key: string) => stays(Number(key.slice(key.indexOf(':') + 1)));
  return {
    ...grid,
    entries: new Map([...grid.entries].filter(([key]) => isKept(key))),
    asked: new Map([...grid.asked].filter(([key]) => isKept(key))),
    history: grid.history
      .map((step) => step.filter(([key]) => isKept(key)))
      .filter((step) => step.length > 0),
  };
}

/**
 * Voltages of another purpose in place of those that were: as they were left, and as they stand now
 * where that is newer.
 * @param fresh what stands now.
 */
export function turnTo(
  grid: Grid,
  column: number,
  { from, to, fresh }: { from: ReadingPurpose; to: ReadingPurpose; fresh: Changes },
): Grid {
  const isVoltage = (key: string) => Number(key.slice(key.indexOf(':') + 1)) === column;
  const voltages = [...grid.entries].filter(([key]) => isVoltage(key));
  const rest = keepColumns(grid, (one) => one !== column);
  const left = grid.left.get(to) ?? [];
  // What stands now goes before what stood when one left, but for what waits for an answer.
  const open = new Set(
    left.flatMap(([key, entry]) => (entry.problem || isAsked(entry) ? [key] : [])),
  );
  return {
    ...placed(rest, [...left, ...fresh.filter(([key]) => !open.has(key))]),
    history: [],
    left: new Map([...grid.left, [from, voltages]]),
  };
}

/**
 * What somebody else typed, or what waited from before. Places under question keep theirs; a step
 * back would undo what was not done here, so these places leave the history.
 */
export function beside(grid: Grid, changes: Changes): Grid {
  const taken = changes.filter(([key]) => !grid.asked.has(key));
  const keys = new Set(taken.map(([key]) => key));
  return {
    ...placed(grid, taken),
    history: grid.history
      .map((step) => step.filter(([key]) => !keys.has(key)))
      .filter((step) => step.length > 0),
  };
}

/** What the server did not take comes back to its place, with the reason or with what stands there. */
export function refused(
  grid: Grid,
  key: string,
  mine: Entry,
  why: { message: string } | { clash: Clash },
): Grid {
  const entry: Entry =
    'clash' in why
      ? { ...mine, clash: why.clash, problem: null }
      : { ...mine, value: null, problem: `Not stored: ${why.message}` };
  const stood = 'clash' in why ? entryOf(why.clash, why.clash.person) : BLANK;
  return { ...placed(grid, [[key, entry]]), asked: new Map([...grid.asked, [key, stood]]) };
}

/** Answers which of two readings of one place counts. */
export function settle(grid: Grid, key: string, take: 'mine' | 'theirs'): Step {
  const entry = grid.entries.get(key);
  if (!entry?.clash) return { grid, send: [], moves: false };
  const answered = { ...grid, asked: without(grid.asked, key) };
  const theirs = entryOf(entry.clash, entry.clash.person);
  if (take === 'theirs') return { grid: placed(answered, [[key, theirs]]), send: [], moves: true };
  const mine = { ...entry, clash: null };
  return {
    grid: {
      ...placed(answered, [[key, mine]]),
      history: [...grid.history, [[key, theirs]]],
    },
    send: [[key, mine]],
    moves: true,
  };
}

/**
 * What was typed before a reload and not stored: asked about or wrong as it was, and where nothing
 * speaks against it any more, said to be not stored. Nothing looks stored that is not.
 */
export function restored(grid: Grid, place: Place, text: string, judge: Judge): Grid {
  const key = keyOf(place.row, place.column);
  const before = grid.entries.get(key) ?? BLANK;
  const judged = judge(place, text, grid.entries);
  const entry =
    judged.problem || isAsked(judged)
      ? judged
      : { ...BLANK, text, problem: 'Not stored yet; Enter stores it.' };
  return {
    ...placed(grid, [[key, entry]]),
    asked: new Map([...grid.asked, [key, grid.asked.get(key) ?? before]]),
  };
}

/** What is typed and not stored: asked about, not understood, without a place. */
export function notStored({ entries, unplaced }: Grid): {
  asked: number;
  wrong: number;
  unplaced: number;
  all: number;
} {
  const list = [...entries.values()];
  const wrong = list.filter(({ problem }) => problem !== null).length;
  const asked = list.filter((entry) => entry.problem === null && isAsked(entry)).length;
  return { asked, wrong, unplaced, all: asked + wrong + unplaced };
}
