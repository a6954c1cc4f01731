import type { ItemSummary } from './lot-summary';

/** Another claimed item that something speaks against. */
export interface SpokenAgainst {
  words: string;
  /** Cells it is not met by, or contradicted for; null where it is the lot’s as a whole. */
  cells: number | null;
}

/** Something a lot’s verdict rests on, and how much it decides, 0 to 1. */
export interface LotFact {
  text: string;
  decides: number;
}

/** What is known of a lot where its verdict is told. */
export interface LotKnown {
  /** How many the lot has. */
  cells: number;
  capacity: ItemSummary | null;
  resistance: ItemSummary | null;
  /** Whether such a cell can hold the claim; null where that cannot be told. */
  plausible: boolean | null;
  /**
   * Every other claimed item that is missed or contradicted somewhere: no lot holds what was claimed
   * while one of them is not true.
   */
  others?: readonly SpokenAgainst[];
}

/** The verdict of a lot: one sentence, and what it rests on, what decides most first. */
export interface LotVerdictWords {
  headline: string;
  facts: LotFact[];
}

/** So many facts stand under the sentence. */
export const STRONGEST_FACTS = 3;

const MISSED = 'This lot does not hold what was claimed for every cell.';

const sentenceCase = (text: string): string => text[0]!.toUpperCase() + text.slice(1);

/**
 * What judged cells say of an item: one that misses decides more than one that meets, the more the more of
 * them there are; what is met decides where every cell was judged.
 */
function judgedFact(
  [name, bound]: readonly [string, string],
  summary: ItemSummary | null,
  cells: number,
): LotFact[] {
  if (!summary || summary.judged === 0) return [];
  const { judged: n, met, notMet, tooClose, openBounds = 0 } = summary;
  const close = tooClose - openBounds;
  const parts = [
    notMet > 0
      ? `${notMet} of ${n} ${notMet === 1 ? 'misses' : 'miss'} it`
      : `none of ${n} misses it`,
    met > 0 ? `${met} ${met === 1 ? 'meets' : 'meet'} it` : '',
    close > 0 ? `${close} too close to call` : '',
    openBounds > 0 ? `${openBounds} ${bound}; open` : '',
  ].filter(Boolean);
  const decides =
    notMet > 0 ? 0.5 + 0.4 * (notMet / n) : 0.4 * (met / n) * Math.min(1, n / Math.max(1, cells));
  return [{ text: `${name}: ${parts.join(', ')}`, decides }];
}

function heldFact(capacity: ItemSummary | null, cells: number): LotFact[] {
  const held = capacity?.held ?? 0;
  if (held === 0) return [];
  return [
    {
      text: `${held} ${held === 1 ? 'cell has' : 'cells have'} only results that are held and do not count`,
      decides: 0.45 + 0.5 * Math.min(1, held / Math.max(1, cells)),
    },
  ];
}

const againstFact = ({ words, cells: n }: SpokenAgainst, cells: number): LotFact => ({
  text:
    n === null
      ? `${words} is not as claimed`
      : `${words} is not as claimed for ${n === cells ? `all ${n}` : n}`,
  decides: n === null ? 0.92 : 0.5 + 0.4 * Math.min(1, n / Math.max(1, cells)),
});

/** Everything the verdict rests on, in the order it is known in. */
function factsOf({ cells, capacity, resistance, plausible, others = [] }: LotKnown): LotFact[] {
  return [
    ...heldFact(capacity, cells),
    ...(plausible === false
      ? [{ text: 'the claimed capacity is more than this size of cell can hold', decides: 1 }]
      : []),
    ...judgedFact(['capacity', 'at least'], capacity, cells),
    ...judgedFact(['AC resistance', 'at most'], resistance, cells),
    ...others.map((other) => againstFact(other, cells)),
  ];
}

/**
 * The lot verdict: it does not hide behind the mean (handbook, chapter 5, "The lot against its claim").
 * Held results come first; then a claim no such cell can hold; then what is missed, by how many cells.
 */
export function lotVerdictWords(known: LotKnown): LotVerdictWords {
  const { cells, capacity, plausible, others = [] } = known;
  const facts = factsOf(known);
  if (facts.length === 0)
    return {
      // What cannot be judged was measured all the same, and is said.
      headline:
        capacity && untestedOf(cells, capacity) < cells
          ? headline(known)
          : `Nothing of the ${cells} cells is measured yet, so the claim is open.`,
      facts: [],
    };
  return {
    headline: others.length > 0 && plausible !== false ? MISSED : headline(known),
    // Held results are named first, whatever else is known: everything else stands without them.
    facts: facts
      .map((fact, at) => ({ fact, at, first: fact.text.includes(' held and ') ? 0 : 1 }))
      .sort((a, b) => a.first - b.first || b.fact.decides - a.fact.decides || a.at - b.at)
      .map(({ fact: { text, decides } }) => ({ text: sentenceCase(text), decides })),
  };
}

/** The same as one text, with every fact, in the order they are known in. */
export function lotSentence(
  cells: number,
  capacity: ItemSummary | null,
  resistance: ItemSummary | null,
  plausible: boolean | null,
  others: readonly SpokenAgainst[] = [],
): string {
  const known = { cells, capacity, resistance, plausible, others };
  const { headline: opening } = lotVerdictWords(known);
  const facts = factsOf(known).map(({ text }, at) => (at === 0 ? sentenceCase(text) : text));
  return facts.length === 0 ? opening : `${opening} ${facts.join('; ')}.`;
}

/** Cells nobody tested: what is held, cannot be compared or has no uncertainty was tested. */
const untestedOf = (
  cells: number,
  { n, bounds, held, notComparable, noUncertainty }: ItemSummary,
): number => Math.max(0, cells - n - bounds - held - notComparable - noUncertainty);

/** Why cells of a lot have no result that counts, in words. */
function waitsOf(cells: number, capacity: ItemSummary): string[] {
  const waits: [number, string][] = [
    [untestedOf(cells, capacity), 'not tested'],
    [capacity.held, 'held'],
    [capacity.notComparable, 'not comparable with the claim'],
    [capacity.noUncertainty, 'measured with no known uncertainty'],
  ];
  return waits.flatMap(([n, words]) =>
    n > 0 ? [`${n} of ${cells} ${n === 1 ? 'is' : 'are'} ${words}`] : [],
  );
}

function headline({ cells, capacity, resistance, plausible }: LotKnown): string {
  const measured = [capacity, resistance].filter(
    (summary): summary is ItemSummary => summary !== null && summary.judged > 0,
  );
  if (plausible === false) return 'This lot cannot be what was claimed.';
  if (measured.some((summary) => summary.notMet > 0)) return MISSED;
  const results = capacity ? capacity.n + capacity.bounds : 0;
  if (!capacity || cells <= untestedOf(cells, capacity)) return 'Capacity is not tested yet.';
  if (results === 0) {
    const { held, notComparable, noUncertainty } = capacity;
    if (notComparable + noUncertainty === 0) return `All ${held} capacity results are held.`;
    return `No capacity result can be judged; ${waitsOf(cells, capacity).join(', ')}.`;
  }
  if (capacity.judged === 0)
    return `The capacity is claimed as typical: the mean of the lot is judged, no single cell${results < cells ? `; ${results} of ${cells} cells are measured` : ''}.`;
  const complete = results >= cells && measured.every((summary) => summary.tooClose === 0);
  if (complete) return 'Every cell holds what was claimed.';
  if (results < cells)
    return `Tested cells do not contradict the claim; ${waitsOf(cells, capacity).join(', ')}.`;
  return 'The claim is neither shown nor refuted for every cell.';
}

/**
 * What would change the verdict, most telling first.
 * @example whatWouldChange({ cells: 32, capacity: null, resistance: null, plausible: true }) // ['A capacity test of the 32 cells not tested yet.']
 */
export function whatWouldChange({ cells, capacity, plausible }: LotKnown): string[] {
  const results = capacity ? capacity.n + capacity.bounds : 0;
  const held = capacity?.held ?? 0;
  const untested = capacity ? untestedOf(cells, capacity) : cells;
  const cellsWords = (n: number) => (n === 1 ? '1 cell' : `${n} cells`);
  const changes: string[] = [];
  if (plausible === false && results === 0)
    changes.push('Nothing measured of the cells: such a cell cannot hold the claim.');
  if (held > 0)
    changes.push(`A lead’s look at the ${held} held ${held === 1 ? 'result' : 'results'}.`);
  if (untested > 0) changes.push(`A capacity test of the ${cellsWords(untested)} not tested yet.`);
  const open = capacity?.openBounds ?? 0;
  const close = (capacity?.tooClose ?? 0) - open;
  if (close > 0)
    changes.push(
      `A better look at the ${cellsWords(close)} too close to call; each page says what would settle it.`,
    );
  if (open > 0)
    changes.push(
      `A discharge down to the cut-off, without a gap, of the ${cellsWords(open)} known only as at least.`,
    );
  if (capacity && capacity.notComparable > 0)
    changes.push(
      `Tests at the claim’s conditions of the ${cellsWords(capacity.notComparable)} that cannot be compared.`,
    );
  if (capacity && capacity.noUncertainty > 0)
    changes.push(
      `An instrument with a known accuracy for the ${cellsWords(capacity.noUncertainty)} without an uncertainty.`,
    );
  if (changes.length === 0 && capacity && capacity.judged > 0)
    changes.push('Nothing that is left to do: every cell was tested and judged.');
  return changes;
}
