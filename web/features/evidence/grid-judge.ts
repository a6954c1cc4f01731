import {
  checkTyped,
  checkTypedResult,
  type Doubt,
  impossibleReading,
  type ResultVoltages,
} from '@dusk-tally/core/arrivals';
import {
  BLANK,
  type Entry,
  type GridCell,
  type GridColumn,
  keyOf,
  type Kind,
  parseEntry,
  shownAsTyped,
  SHOWN_KINDS,
} from './entry-columns';

/** Everything a typed value is judged by beside the values around it. */
export interface JudgeContext {
  cells: readonly GridCell[];
  columns: readonly GridColumn[];
  /** Unit a bare number is in, by kind; the stored one where none is chosen. */
  bare: Partial<Record<Kind, string>>;
  /** What is usual, to ask about what is far from it. */
  expected: Partial<Record<Kind, number | null>>;
  /** What a discharge runs between, to check a typed result by. */
  voltages: ResultVoltages;
}

/** Whether an entry is asked about and nobody has answered. */
export const isAsked = ({ doubt, kept, clash }: Entry): boolean =>
  clash !== null || (doubt !== null && !kept);

/** A value others are compared with: what is asked about is none until it is answered. */
const valueOf = (entry: Entry | undefined): number | null =>
  entry === undefined || isAsked(entry) || entry.problem !== null ? null : entry.value;

/** Whether what was typed of one discharge fits together. */
function resultDoubt(
  { columns, voltages }: JudgeContext,
  row: number,
  typed: { kind: Kind; value: number },
  among: ReadonlyMap<string, Entry>,
): Doubt | null {
  if (typed.kind !== 'capacity' && !SHOWN_KINDS.includes(typed.kind)) return null;
  const of = (kind: Kind) => {
    if (kind === typed.kind) return typed.value;
    const column = columns.findIndex((one) => one.kind === kind);
    return column < 0 ? null : valueOf(among.get(keyOf(row, column)));
  };
  return checkTypedResult(
    {
      ah: of('capacity'),
      wh: of('energyShown'),
      currentA: of('currentShown'),
      hours: of('durationShown'),
    },
    voltages,
  );
}

/** What a typed text is: a value, a question about it, or what is wrong with it. */
export function judgeEntry(
  context: JudgeContext,
  { row, column }: { row: number; column: number },
  text: string,
  among: ReadonlyMap<string, Entry>,
): Entry {
  const { cells, columns, bare, expected } = context;
  const own = columns[column]!;
  const { column: name, kind } = own;
  if (text.trim() === '') return BLANK;
  const parsed = parseEntry(text, own, bare[kind] ?? '');
  if (!parsed.ok) return { ...BLANK, text, problem: parsed.message };
  // What can be no such reading is not asked about: it could never be stored.
  const impossible = impossibleReading(kind, parsed.value);
  if (impossible) return { ...BLANK, text, problem: impossible };
  const valueAt = (r: number) => valueOf(among.get(keyOf(r, column)));
  const others = cells.flatMap((_, r) => (r === row ? [] : (valueAt(r) ?? [])));
  const previous = [1, 2, 3, 4].flatMap((back) => valueAt(row - back) ?? []);
  const { value, repeats, decimals } = parsed;
  const doubt =
    checkTyped(name, value, { others, previous, expected: expected[kind] ?? null }) ??
    (parsed.doubt ? ({ code: 'decimal-point', question: parsed.doubt } as const) : null) ??
    resultDoubt(context, row, { kind, value }, among);
  return { ...BLANK, text: shownAsTyped(value, decimals), value, decimals, repeats, doubt };
}
