import type { CellLine } from '@dusk-tally/lab/verdicts';

/**
 * Lines of cells on their way to the browser: column names once, one row of values a cell, and
 * each list of words once. Ten thousand objects take several times as long to write and read.
 */
export interface PackedLines {
  /** JSON text. */
  text: string;
}

const WORDS = ['reasons', 'waitingFor', 'differences', 'corrections', 'holds'] as const;
type Words = (typeof WORDS)[number];
type Plain = Exclude<keyof CellLine, Words>;

export function packLines(lines: readonly CellLine[]): PackedLines {
  const names = Object.keys(lines[0] ?? {}).filter(
    (name): name is Plain => !WORDS.includes(name as Words),
  );
  const lists: unknown[] = [];
  const known = new Map<string, number>();
  const listed = (list: unknown): number => {
    const key = JSON.stringify(list);
    const at = known.get(key);
    if (at !== undefined) return at;
    known.set(key, lists.length);
    lists.push(list);
    return lists.length - 1;
  };
  const rows = lines.map((line) => [
    ...names.map((name) => line[name]),
    ...WORDS.map((name) => listed(line[name])),
  ]);
  return { text: JSON.stringify({ names, lists, rows }) };
}

export function unpackLines({ text }: PackedLines): CellLine[] {
  const { names, lists, rows } = JSON.parse(text) as {
    names: Plain[];
    lists: unknown[];
    rows: unknown[][];
  };
  return rows.map((row) => {
    const line: Record<string, unknown> = {};
    names.forEach((name, i) => (line[name] = row[i]));
    WORDS.forEach((name, i) => (line[name] = lists[row[names.length + i] as number]));
    return line as unknown as CellLine;
  });
}
