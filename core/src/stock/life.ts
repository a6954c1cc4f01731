/** Where a cell is in its life, in the order of the work (handbook, chapter 6). */
export const LIFE_STATES = {
  arrived: 'arrived',
  quarantine: 'in quarantine',
  ready: 'ready',
  onBench: 'on the bench',
  resting: 'resting',
  graded: 'graded',
  inStock: 'in stock',
  reserved: 'reserved',
  packed: 'packed',
  shipped: 'shipped',
  returned: 'returned',
  scrapped: 'scrapped',
} as const;
/** Where in its life a cell stands (handbook, chapter 6). */
export type LifeState = keyof typeof LIFE_STATES;
/** States of a life, in the order a sound cell goes through them. */
export const LIFE_ORDER = Object.keys(LIFE_STATES) as LifeState[];

/** What holds of a cell now, by the acts that are kept. */
export interface LifeFacts {
  /** Set apart for what was found, or to be discarded. */
  setApart: boolean;
  /** Its arrival lets it on a tester. */
  ready: boolean;
  onBench: boolean;
  resting: boolean;
  graded: boolean;
  inStock: boolean;
  reserved: boolean;
  packed: boolean;
  shipped: boolean;
  returned: boolean;
  scrapped: boolean;
}

/** What is known of a cell nothing was done with yet. */
export const JUST_ARRIVED: LifeFacts = {
  setApart: false,
  ready: false,
  onBench: false,
  resting: false,
  graded: false,
  inStock: false,
  reserved: false,
  packed: false,
  shipped: false,
  returned: false,
  scrapped: false,
};

/** Facts from the one that decides first to the one that decides last, and the state each gives. */
const DECIDES: readonly [keyof LifeFacts, LifeState][] = [
  ['scrapped', 'scrapped'],
  ['shipped', 'shipped'],
  // What can hurt someone outweighs what was planned with the cell.
  ['setApart', 'quarantine'],
  ['returned', 'returned'],
  ['packed', 'packed'],
  ['onBench', 'onBench'],
  ['reserved', 'reserved'],
  ['resting', 'resting'],
  ['inStock', 'inStock'],
  ['graded', 'graded'],
  ['ready', 'ready'],
];

/** The one state of a cell. */
export const lifeState = (facts: LifeFacts): LifeState =>
  DECIDES.find(([fact]) => facts[fact])?.[1] ?? 'arrived';

/** An act that changed what holds of a cell. */
export interface LifeAct {
  /** ms since 1970 UTC. */
  at: number;
  /** Who did it; null where nobody is on record. */
  by: string | null;
  changes: Partial<LifeFacts>;
}

/** A stretch of a cell’s life. */
export interface LifeStretch {
  state: LifeState;
  since: number;
  by: string | null;
}

/**
 * A cell’s life from its acts, in any order: one state at a time, each with who and when. Acts that
 * leave the state as it is begin no stretch; of acts at one moment the later in the list counts.
 */
export function lifeOf(acts: readonly LifeAct[]): LifeStretch[] {
  let facts = JUST_ARRIVED;
  const stretches: LifeStretch[] = [];
  for (const { at, by, changes } of [...acts].sort((a, b) => a.at - b.at)) {
    facts = { ...facts, ...changes };
    const state = lifeState(facts);
    const last = stretches[stretches.length - 1];
    if (last?.state === state) continue;
    // What lasted no time at all was no stretch of its life.
    if (last?.since === at) stretches.pop();
    if (stretches[stretches.length - 1]?.state === state) continue;
    stretches.push({ state, since: at, by });
  }
  return stretches;
}
