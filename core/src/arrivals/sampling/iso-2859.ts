/** Code letters of ISO 2859-1, in order; I and O are not used. */
export const CODE_LETTERS = 'ABCDEFGHJKLMNPQ'.split('') as readonly string[];
/** Sample size of each letter. */
const SIZES = [2, 3, 5, 8, 13, 20, 32, 50, 80, 125, 200, 315, 500, 800, 1250];
/** Upper end of each lot-size class, and its letters at levels I, II, III. */
const CLASSES: readonly [number, string][] = [
  [8, 'AAB'],
  [15, 'ABC'],
  [25, 'BCD'],
  [50, 'CDE'],
  [90, 'CEF'],
  [150, 'DFG'],
  [280, 'EGH'],
  [500, 'FHJ'],
  [1200, 'GJK'],
  [3200, 'HKL'],
  [10000, 'JLM'],
  [35000, 'KMN'],
];
/** Letter at which each AQL has the plan that accepts none. */
const ZERO_AT: Readonly<Record<string, string>> = {
  '0.065': 'L',
  '0.10': 'K',
  '0.15': 'J',
  '0.25': 'H',
  '0.40': 'G',
  '0.65': 'F',
  '1.0': 'E',
  '1.5': 'D',
  '2.5': 'C',
  '4.0': 'B',
  '6.5': 'A',
};
const NUMBERS = [1, 2, 3, 5, 7, 10, 14, 21];

/** Acceptance quality limits, percent nonconforming, as written in the standard. */
export const AQLS = Object.keys(ZERO_AT).sort((a, b) => Number(a) - Number(b));
/** General inspection levels of ISO 2859-1. */
export const LEVELS = ['I', 'II', 'III'] as const;
/** One of the general inspection levels of ISO 2859-1. */
export type Level = (typeof LEVELS)[number];

/** A single sampling plan for attributes, normal inspection (ISO 2859-1, tables 1 and 2-A). */
export interface AttributePlan {
  /** Letter for the lot size, and the one whose plan is used after an arrow. */
  letter: string;
  usedLetter: string;
  sampleSize: number;
  /** Most nonconforming cells in the sample of a lot that is accepted; one more rejects. */
  acceptance: number;
  rejection: number;
  /** The sample would be the lot or more: test every cell. */
  testAll: boolean;
}

/**
 * Code letter by lot size and inspection level (ISO 2859-1, Table 1).
 * @throws RangeError for a lot below 2 or above 35 000 cells.
 * @example codeLetter(240, 'II') // 'G'
 */
export function codeLetter(lotSize: number, level: Level): string {
  if (!Number.isInteger(lotSize) || lotSize < 2 || lotSize > 35_000)
    throw new RangeError(`Expected a lot of 2 to 35 000 cells; found ${lotSize}.`);
  const [, letters] = CLASSES.find(([upTo]) => lotSize <= upTo)!;
  return letters[LEVELS.indexOf(level)]!;
}

/**
 * Plan of a letter for an AQL, single sampling, normal inspection (ISO 2859-1, Table 2-A), made
 * from the rule the table follows along its diagonals.
 * @throws RangeError for an unknown letter or AQL.
 */
export function planOfLetter(letter: string, aql: string): Omit<AttributePlan, 'testAll'> {
  const at = CODE_LETTERS.indexOf(letter);
  const zeroLetter = ZERO_AT[aql];
  if (at < 0) throw new RangeError(`Expected a code letter from A to Q; found ${letter}.`);
  if (!zeroLetter) throw new RangeError(`Expected an AQL of ${AQLS.join(', ')}; found ${aql}.`);
  const zero = CODE_LETTERS.indexOf(zeroLetter);
  const last = Math.min(zero + 2 + NUMBERS.length, CODE_LETTERS.length - 1);
  let used = at;
  if (at < zero || at === zero + 1) used = zero;
  if (at === zero + 2) used = zero + 3;
  used = Math.min(used, last);
  const acceptance = used === zero ? 0 : NUMBERS[used - zero - 3]!;
  return {
    letter,
    usedLetter: CODE_LETTERS[used]!,
    sampleSize: SIZES[used]!,
    acceptance,
    rejection: acceptance + 1,
  };
}

/**
 * Plan for a lot (handbook, chapter 1, "How many to test").
 * @example attributePlan(240, 'II', '2.5').sampleSize // 32
 */
export function attributePlan(lotSize: number, level: Level, aql: string): AttributePlan {
  const plan = planOfLetter(codeLetter(lotSize, level), aql);
  return { ...plan, testAll: plan.sampleSize >= lotSize };
}
