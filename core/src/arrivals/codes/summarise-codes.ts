import type { Chemistry } from '../../chemistry';
import { daysBetween, monthsBetween } from './calendar';
import type { CodeReading } from './gbt-34014';

/** One cell of a lot with the code on it, as far as it has one. */
export interface CodedCell {
  number: string;
  code: string | null;
  /** Null for a cell without a code. */
  reading: CodeReading | null;
}

/** What the codes of a lot are held against: arrival, claim, and codes seen in other lots. */
export interface CodeContext {
  arrivedOn: string | null;
  /** What the claim says, as far as it says it. */
  claimedNew: boolean;
  producedAfter: string | null;
  chemistry: Chemistry;
  /** Cells of other lots that carry the same code: code → where. */
  elsewhere: ReadonlyMap<string, string>;
  makerName: (maker: string) => string | null;
}

/** Something the codes of a lot say together, with the cells it concerns. */
export interface CodeFinding {
  kind:
    | 'copied'
    | 'copiedElsewhere'
    | 'aged'
    | 'older'
    | 'mixed'
    | 'chemistry'
    | 'makers'
    | 'refused'
    | 'missing'
    | 'product';
  sentence: string;
  cells: string[];
}

/** What the codes of a lot say: how many are read, per production day and maker, and the findings. */
export interface CodeSummary {
  coded: number;
  missing: number;
  read: number;
  refused: { number: string; message: string }[];
  /** Cells per production day (first day the code allows), earliest first. */
  dates: { day: string; count: number }[];
  /** Days between the earliest and the latest production date. */
  spanDays: number | null;
  /** Age on arrival in days: least and most any code allows; null without dates or arrival. */
  ageDays: { least: number; most: number } | null;
  makers: { maker: string; name: string | null; count: number }[];
  findings: CodeFinding[];
}

/** A lot sold as new is doubted beyond this age on arrival, days (house default). */
const NEW_AT_MOST_DAYS = 365;
/** Dates further apart than this make a lot behave like two, days (house default). */
const MIXED_FROM_DAYS = 30;

const plural = (count: number, one: string, many: string): string =>
  `${count} ${count === 1 ? one : many}`;

/** What the codes of a lot tell (handbook, chapter 1, "What codes tell"). */
export function summariseCodes(cells: readonly CodedCell[], context: CodeContext): CodeSummary {
  const findings: CodeFinding[] = [];
  const add = (kind: CodeFinding['kind'], who: string[], sentence: string) => {
    if (who.length > 0) findings.push({ kind, cells: who, sentence });
  };
  const coded = cells.filter((cell) => cell.code);
  const read = cells.flatMap((cell) =>
    cell.reading?.ok ? [{ number: cell.number, ...cell.reading }] : [],
  );
  const refused = cells.flatMap((cell) =>
    cell.reading && !cell.reading.ok
      ? [{ number: cell.number, message: cell.reading.message }]
      : [],
  );
  addCopies(coded, context, add);
  const dated = read.filter((cell) => cell.producedFrom !== null);
  const dates = countBy(dated.map((cell) => cell.producedFrom!))
    .map(([day, count]) => ({ day, count }))
    .sort((a, b) => a.day.localeCompare(b.day));
  const spanDays =
    dates.length > 0 ? daysBetween(dates[0]!.day, dates[dates.length - 1]!.day) : null;
  const ageDays = ageOf(dated, context.arrivedOn);
  addAges(dated, context, add);
  if (spanDays !== null && spanDays >= MIXED_FROM_DAYS)
    add(
      'mixed',
      dated.map((cell) => cell.number),
      `${dates.length} production dates, ${spanDays} days apart: the lot may behave like several lots.`,
    );
  const makers = countBy(read.flatMap((cell) => cell.maker ?? []))
    .map(([maker, count]) => ({ maker, name: context.makerName(maker), count }))
    .sort((a, b) => b.count - a.count);
  if (makers.length > 1)
    add(
      'makers',
      read.filter((cell) => cell.maker && cell.maker !== makers[0]!.maker).map((c) => c.number),
      `Codes of ${makers.length} makers in one lot: ${makers.map((m) => `${m.name ?? m.maker} ${m.count}`).join(', ')}.`,
    );
  const other = read.filter(
    (cell) => cell.chemistryWords && !cell.chemistries.includes(context.chemistry),
  );
  add(
    'chemistry',
    other.map((cell) => cell.number),
    `${plural(other.length, 'code names', 'codes name')} ${[...new Set(other.map((c) => c.chemistryWords))].join(', ')}; the lot is taken as ${context.chemistry}.`,
  );
  const notCells = read.filter((cell) => cell.product && cell.product !== 'cell');
  add(
    'product',
    notCells.map((cell) => cell.number),
    `${plural(notCells.length, 'code belongs', 'codes belong')} to a pack or module, not to a cell.`,
  );
  add(
    'refused',
    refused.map((cell) => cell.number),
    `${plural(refused.length, 'code', 'codes')} cannot be read.`,
  );
  const missing = cells.filter((cell) => !cell.code);
  if (coded.length > 0)
    add(
      'missing',
      missing.map((cell) => cell.number),
      `${plural(missing.length, 'cell has', 'cells have')} no code while ${coded.length} have one.`,
    );
  return {
    coded: coded.length,
    missing: missing.length,
    read: read.length,
    refused,
    dates,
    spanDays,
    ageDays,
    makers,
    findings,
  };
}

type Add = (kind: CodeFinding['kind'], cells: string[], sentence: string) => void;
type Dated = { number: string; producedFrom: string | null; producedUntil: string | null };

function addCopies(coded: CodedCell[], context: CodeContext, add: Add): void {
  const byCode = new Map<string, string[]>();
  for (const cell of coded)
    byCode.set(cell.code!, [...(byCode.get(cell.code!) ?? []), cell.number]);
  const copies = [...byCode].filter(([, numbers]) => numbers.length > 1);
  add(
    'copied',
    copies.flatMap(([, numbers]) => numbers),
    `${plural(copies.length, 'code stands', 'codes stand')} on more than one cell, ${copies.reduce((sum, [, n]) => sum + n.length, 0)} cells in all: copied labels.`,
  );
  const elsewhere = coded.filter((cell) => context.elsewhere.has(cell.code!));
  add(
    'copiedElsewhere',
    elsewhere.map((cell) => cell.number),
    `${plural(elsewhere.length, 'code was', 'codes were')} seen in another lot already: ${elsewhere
      .slice(0, 3)
      .map((cell) => `${cell.number} as ${context.elsewhere.get(cell.code!)}`)
      .join(', ')}${elsewhere.length > 3 ? ' …' : ''}.`,
  );
}

function ageOf(dated: Dated[], arrivedOn: string | null): CodeSummary['ageDays'] {
  if (!arrivedOn || dated.length === 0) return null;
  const least = dated.map((cell) => Math.max(0, daysBetween(cell.producedUntil!, arrivedOn)));
  const most = dated.map((cell) => daysBetween(cell.producedFrom!, arrivedOn));
  return {
    least: least.reduce((a, b) => Math.min(a, b)),
    most: most.reduce((a, b) => Math.max(a, b)),
  };
}

function addAges(dated: Dated[], context: CodeContext, add: Add): void {
  const { arrivedOn, producedAfter } = context;
  if (producedAfter) {
    const older = dated.filter((cell) => cell.producedUntil! < producedAfter);
    add(
      'older',
      older.map((cell) => cell.number),
      `${plural(older.length, 'cell was', 'cells were')} made before ${producedAfter}, which the claim rules out.`,
    );
  }
  if (!arrivedOn || !context.claimedNew) return;
  const aged = dated.filter(
    (cell) => daysBetween(cell.producedUntil!, arrivedOn) > NEW_AT_MOST_DAYS,
  );
  if (aged.length === 0) return;
  const months = aged.map((cell) => monthsBetween(cell.producedUntil!, arrivedOn));
  const [low, high] = [Math.min(...months), Math.max(...months)];
  add(
    'aged',
    aged.map((cell) => cell.number),
    `${plural(aged.length, 'cell was', 'cells were')} ${low === high ? low : `${low} to ${high}`} months old on arrival, sold as new or unused.`,
  );
}

function countBy(values: string[]): [string, number][] {
  const counts = new Map<string, number>();
  for (const value of values) counts.set(value, (counts.get(value) ?? 0) + 1);
  return [...counts];
}
