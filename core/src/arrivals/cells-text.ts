/** A cell as it can be named in a list. */
export interface NameableCell {
  id: number;
  /** Number of the lab's own series, such as `B-0241`. */
  number: string;
  /** The maker's own mark; null where it has none. */
  label?: string | null;
}

/** Cells a list names, and what of it names none. */
export interface CellsRead {
  /** Each once, in the order they are named. */
  ids: number[];
  /** Parts that name no cell of the lot, as written. */
  unknown: string[];
}

const digitsOf = (number: string): number => Number(/(\d+)$/.exec(number)?.[1] ?? NaN);

/** Where one name stands in the lot, −1 for nowhere: `B-0241`, `b241`, `241`, `#8`, a maker's mark. */
function placeOf(name: string, cells: readonly NameableCell[]): number {
  const wanted = name.trim().toUpperCase();
  const position = /^#(\d+)$/.exec(wanted);
  if (position) return Number(position[1]) <= cells.length ? Number(position[1]) - 1 : -1;
  const exact = cells.findIndex(
    ({ number, label }) => number.toUpperCase() === wanted || label?.toUpperCase() === wanted,
  );
  if (exact >= 0) return exact;
  if (/^\d{1,7}$/.test(wanted))
    return cells.findIndex(({ number }) => digitsOf(number) === Number(wanted));
  const short = /^([A-Z]+)-?0*(\d+)$/.exec(wanted);
  if (!short) return -1;
  return cells.findIndex(
    ({ number }) =>
      number.toUpperCase().startsWith(short[1]!) && digitsOf(number) === Number(short[2]),
  );
}

const RANGE = /^(\S+?)\s*(?:\bto\b|\bbis\b|–|\.\.)\s*(\S+)$/i;
const SHORT_RANGE = /^(#?)(\d+)\s*-\s*#?(\d+)$/;
/** Words that join two ends, so that blanks around them do not part a list. */
const JOINED = /\s+(to|bis|–|-|\.\.)\s+/gi;

/**
 * A list of cells as people write it, the same everywhere: numbers (`3, 17, 20-30`), whole numbers
 * of the series (`B-0241 to B-0250`), places in the lot (`#1-8`), a maker's mark as scanned, `all`,
 * `first 24`; parted by commas, semicolons, lines or blanks.
 * @param cells of the lot, in its order. @param groups further words that stand for cells.
 * @example readCells('2, #1, 9', [{ id: 7, number: 'B-0001' }, { id: 8, number: 'B-0002' }]) // { ids: [8, 7], unknown: ['9'] }
 */
export function readCells(
  text: string,
  cells: readonly NameableCell[],
  groups: Readonly<Record<string, readonly number[]>> = {},
): CellsRead {
  const ids = new Set<number>();
  const unknown: string[] = [];
  const parts = text
    .replace(JOINED, ' $1 ')
    .split(/[,;\n]+/)
    .flatMap((part) => partsOf(part.trim()))
    .filter((part) => part !== '');
  for (const part of parts) {
    const found = cellsOfPart(part, cells, groups);
    if (found === null) unknown.push(part);
    else for (const id of found) ids.add(id);
  }
  return { ids: [...ids], unknown };
}

/** Parts between blanks; a range and `first 24` are one. */
function partsOf(text: string): string[] {
  return text.match(/first\s+\d+|\S+\s+(?:to|bis|–|-|\.\.)\s+\S+|\S+/gi) ?? [];
}

function cellsOfPart(
  part: string,
  cells: readonly NameableCell[],
  groups: Readonly<Record<string, readonly number[]>>,
): readonly number[] | null {
  const word = part.toLowerCase();
  if (Object.hasOwn(groups, word)) return groups[word]!;
  if (word === 'all') return cells.map(({ id }) => id);
  const first = /^first\s+(\d+)$/.exec(word);
  if (first) return cells.slice(0, Number(first[1])).map(({ id }) => id);
  const single = placeOf(part, cells);
  if (single >= 0) return [cells[single]!.id];
  const range = rangeOf(part, cells);
  return range === null ? null : cells.slice(range.from, range.to + 1).map(({ id }) => id);
}

/** Places of both ends; of numbers the cells between them, even where an end is missing. */
function rangeOf(
  part: string,
  cells: readonly NameableCell[],
): { from: number; to: number } | null {
  const short = SHORT_RANGE.exec(part);
  const [a, b] = short ? [`${short[1]}${short[2]}`, `${short[1]}${short[3]}`] : endsOf(part);
  if (a === undefined || b === undefined) return null;
  if (a.startsWith('#')) {
    const [from, to] = [placeOf(a, cells), Math.min(Number(b.replace('#', '')), cells.length) - 1];
    return from < 0 || !(to >= from) ? null : { from, to };
  }
  const [low, high] = [seriesOf(a), seriesOf(b)];
  if (!low || !high || !(low.sequence <= high.sequence)) return null;
  const within = cells.flatMap(({ number }, i) => {
    const own = digitsOf(number);
    const prefixed = [low, high].every(({ prefix }) => number.toUpperCase().startsWith(prefix));
    return prefixed && own >= low.sequence && own <= high.sequence ? [i] : [];
  });
  return within.length > 0 ? { from: within[0]!, to: within[within.length - 1]! } : null;
}

/** `B-0241` as letters and digits; no letters where only digits were typed. */
function seriesOf(name: string): { prefix: string; sequence: number } | null {
  const parts = /^([A-Z]*)-?0*(\d{1,7})$/.exec(name.toUpperCase());
  return parts ? { prefix: parts[1]!, sequence: Number(parts[2]) } : null;
}

function endsOf(part: string): [string, string] | [] {
  const spaced = RANGE.exec(part) ?? /^(\S+)\s+-\s+(\S+)$/.exec(part);
  if (spaced) return [spaced[1]!, spaced[2]!];
  const joined = /^([A-Za-z]+-?\d+)-([A-Za-z]+-?\d+)$/.exec(part);
  return joined ? [joined[1]!, joined[2]!] : [];
}

/**
 * What a list can look like, with numbers of the lot's own cells.
 * @example cellsExample([{ id: 1, number: 'B-0241' }, { id: 2, number: 'B-0242' }]) // 'such as 241, 242 or #1-2'
 */
export function cellsExample(cells: readonly NameableCell[]): string {
  const [first, last] = [cells[0], cells[Math.min(cells.length, 8) - 1]];
  if (!first || !last) return 'no cells yet';
  return `such as ${digitsOf(first.number)}, ${digitsOf(last.number)} or #1-${Math.min(cells.length, 8)}`;
}

/** What was not found, said; null where all was. */
export function unknownCells({ unknown }: Pick<CellsRead, 'unknown'>, lot: string): string | null {
  if (unknown.length === 0) return null;
  const named = unknown
    .slice(0, 3)
    .map((part) => `“${part}”`)
    .join(', ');
  const more = unknown.length > 3 ? ` and ${unknown.length - 3} more` : '';
  return `${named}${more}: no cell of ${lot}.`;
}
