import { CLAIM_ITEMS, type ClaimKind } from '@dusk-tally/core/arrivals';
import {
  type AssessedResult,
  type ClaimedItem,
  disputeDeadline,
  type HoldRule,
  isTypical,
  type ItemStateName,
  type ItemSummary,
  judgeQuantity,
  judgeTypical,
  type LotItemState,
  type LotKnown,
  lotSentence,
  type LotVerdictWords,
  lotVerdictWords,
  massByBox,
  type Range,
  type SpokenAgainst,
  summariseItem,
  whatWouldChange,
} from '@dusk-tally/core/verdicts';
import type { AssessmentRow, LotRow } from '@dusk-tally/store';
import { z } from 'zod';
import { found, type Lab, question } from '../shared';
import { claimedItems } from './cell-evidence';
import { claimedWords } from './claimed-words';
import { type CellLine, cellLines, headOf, type LotHead } from './lot-views';

/** One claimed item of a lot: its cells counted by where they stand, and the lot itself. */
export interface LotItem {
  kind: ClaimKind;
  words: string;
  /** What is claimed, in words with its unit. */
  claimed: string;
  unit: string | null;
  /** How many cells stand where by what is known of themselves; of items of the whole lot none. */
  counts: Partial<Record<ItemStateName, number>>;
  /** Of measured items; null for items in words, and where nothing is measured. */
  summary: ItemSummary | null;
  limits: Range | null;
  /** What is judged of the lot as a whole; null where only its cells are. */
  lot: LotItemState | null;
  /** What its cells wait for, are not comparable by, or are contradicted by; most first. */
  why: { state: ItemStateName; text: string; count: number }[];
}

export interface LotVerdict {
  sentence: string;
  /** The sentence alone, and what it rests on, what decides most first. */
  words: LotVerdictWords;
  /** What would change it. */
  changes: string[];
  /** Every claimed item, in the order of the claim. */
  items: LotItem[];
  capacity: (ItemSummary & { limit: number }) | null;
  acResistance: (ItemSummary & { limit: number }) | null;
  grades: { name: string; count: number }[];
  waiting: number;
  /** Results that are held, by rule, most first; every result of a cell counts. */
  holds: { rule: HoldRule; count: number; cells: string[] }[];
  /** Cells with nothing else that counts; all others are judged by another result. */
  heldCells: number;
  guardFactor: number;
}

function holdCounts(lines: readonly CellLine[]): LotVerdict['holds'] {
  const byRule = new Map<HoldRule, { count: number; cells: Set<string> }>();
  for (const { number, holds } of lines)
    for (const { rule } of holds) {
      const own = byRule.get(rule) ?? { count: 0, cells: new Set<string>() };
      own.count++;
      own.cells.add(number);
      byRule.set(rule, own);
    }
  return [...byRule]
    .map(([rule, { count, cells }]) => ({ rule, count, cells: [...cells] }))
    .sort((a, b) => b.count - a.count);
}

/** Items whose values are numbers with a spread. */
export const MEASURED: ReadonlySet<ClaimKind> = new Set([
  'capacity',
  'acResistance',
  'dcResistance',
  'mass',
  'size',
]);
/** So many reasons are listed. */
const MOST_REASONS = 3;

function countBy<T extends string>(items: readonly T[]): Map<T, number> {
  const counts = new Map<T, number>();
  for (const item of items) counts.set(item, (counts.get(item) ?? 0) + 1);
  return counts;
}

/** What cells in one state have to say, most first. */
function reasonsOf(rows: readonly AssessmentRow[]): LotItem['why'] {
  const of = (state: ItemStateName) => {
    const own = rows.filter((row) => row.state === state);
    const texts = own.flatMap(({ detail }) =>
      state === 'notComparable' ? detail.differences : detail.why,
    );
    return [...countBy(texts)]
      .map(([text, count]) => ({ state, text, count }))
      .sort((a, b) => b.count - a.count)
      .slice(0, MOST_REASONS);
  };
  return (['contradicted', 'notComparable', 'waitingFor'] as const).flatMap(of);
}

/** Told by the box, and no figure of the cell itself. */
const isOfBox = ({ item, figureId, value }: AssessmentRow): boolean =>
  item === 'mass' && figureId === null && value !== null;

/** Measured values of single cells; what the box weighed is one weighing, not one a cell. */
export const resultsOf = (
  rows: readonly AssessmentRow[],
  scatter: number | null,
): AssessedResult[] =>
  rows.flatMap(({ cellId, state, value, standardUncertainty, bound, item, ...row }) =>
    value === null || (item === 'mass' && row.figureId === null)
      ? []
      : [
          {
            cell: String(cellId),
            state,
            value,
            standardUncertainty,
            bound: bound ?? 'exact',
            ...(scatter !== null && item === 'capacity'
              ? { scatter: scatter * Math.abs(value) }
              : {}),
          },
        ],
  );

/** What is judged of the lot as a whole. */
function lotStateOf(
  item: ClaimedItem,
  lot: LotRow,
  rows: readonly AssessmentRow[],
  results: readonly AssessedResult[],
): LotItemState | null {
  const { kind, value } = item;
  if (kind === 'mass') {
    const ofBox = rows.filter(isOfBox);
    const [one] = ofBox;
    return massByBox(one ? { value: one.value!, state: one.state } : null, ofBox.length);
  }
  if (kind === 'quantity') return judgeQuantity(value!, lot.arrivedOn ? lot.quantity : null);
  if (kind === 'disputeWindow') return disputeDeadline(value!, lot.arrivedOn);
  if (value === null || !isTypical(item)) return null;
  return kind === 'capacity' || kind === 'acResistance' || kind === 'dcResistance'
    ? judgeTypical(kind, value, results)
    : null;
}

function itemOf(
  item: ClaimedItem,
  lot: LotRow,
  rows: readonly AssessmentRow[],
  scatter: number | null,
): LotItem {
  const { kind } = item;
  const results = resultsOf(rows, scatter);
  const limited = rows.find(({ low, high }) => low !== null || high !== null);
  const limits = limited ? { low: limited.low, high: limited.high } : null;
  return {
    kind,
    words: CLAIM_ITEMS[kind].words,
    claimed: claimedWords(item),
    unit: kind === 'size' ? 'mm' : CLAIM_ITEMS[kind].unit,
    counts: Object.fromEntries(countBy(rows.flatMap((row) => (isOfBox(row) ? [] : [row.state])))),
    summary: MEASURED.has(kind) && limits ? summariseItem(results, limits) : null,
    limits,
    lot: lotStateOf(item, lot, rows, results),
    why: reasonsOf(rows),
  };
}

/** An item beside capacity and AC resistance, or a typical one, that something speaks against. */
function spokenAgainst({ kind, words, counts, lot }: LotItem): SpokenAgainst[] {
  // Within a sentence, but for what is written in capitals: AC and DC.
  const name = /^[A-Z]{2}/.test(words) ? words : words.charAt(0).toLowerCase() + words.slice(1);
  if (lot?.state === 'notMet') return [{ words: name, cells: null }];
  if (kind === 'capacity' || kind === 'acResistance') return [];
  const cells = (counts.notMet ?? 0) + (counts.contradicted ?? 0);
  return cells > 0 ? [{ words: name, cells }] : [];
}

/** The lot against its claim: sentence, statistics per item, grades. */
export async function verdictOfLot(
  lab: Lab,
  head: Pick<LotHead, 'lot' | 'claim'>,
  lines: CellLine[],
): Promise<LotVerdict> {
  const { claim, lot } = head;
  const [settings, effects, rows] = await Promise.all([
    lab.store.settings.one({ id: 1 }),
    lab.store.meters.effects.find({}),
    lab.store.verdicts.assessments.find({ lotId: lot.id }),
  ]);
  // How far one run of a cell scatters about another, where repeats tell.
  const repeatability = effects.flatMap(({ effect }) => effect?.repeatability ?? []);
  const scatter = repeatability.length > 0 ? Math.max(...repeatability) : null;
  const items = claimedItems(claim).map((item) =>
    itemOf(
      item,
      lot,
      rows.filter((row) => row.item === item.kind),
      scatter,
    ),
  );
  const of = (kind: ClaimKind, limit: number | null | undefined) => {
    const summary = items.find((item) => item.kind === kind)?.summary;
    return summary && limit ? { ...summary, limit } : null;
  };
  const capacity = of('capacity', claim.capacityAh?.value);
  const acResistance = of('acResistance', claim.acResistanceMohm?.value);
  const grades = countBy(lines.flatMap(({ grade }) => grade ?? []));
  const known: LotKnown = {
    cells: lines.length,
    capacity,
    resistance: acResistance,
    plausible: claim.plausibility?.possible ?? null,
    others: items.flatMap(spokenAgainst),
  };
  return {
    sentence: lotSentence(known.cells, capacity, acResistance, known.plausible, known.others),
    words: lotVerdictWords(known),
    changes: whatWouldChange(known),
    items,
    capacity,
    acResistance,
    grades: [...grades].map(([name, count]) => ({ name, count })),
    waiting: lines.filter((line) => !line.grade).length,
    holds: holdCounts(lines),
    heldCells: lines.filter(({ held }) => held !== null).length,
    guardFactor: found(settings, 'The lab’s settings').guardFactor,
  };
}

export const lotVerdict = question({
  role: 'technician',
  input: z.object({ code: z.string().max(20) }),
  run: async (lab, { code }) => {
    const head = await headOf(lab, found(await lab.store.lots.one({ code }), `Lot ${code}`));
    return verdictOfLot(lab, head, await cellLines(lab, head.lot.id));
  },
});
