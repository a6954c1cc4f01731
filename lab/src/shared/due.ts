/** How much something that is due presses. */
export const URGENCIES = ['danger', 'now', 'blocked', 'canWait'] as const;
export type Urgency = (typeof URGENCIES)[number];

export type DueStage =
  'arrivals' | 'bench' | 'evidence' | 'resting' | 'verdicts' | 'stock' | 'suppliers' | 'reports';

/** What waits for somebody, in the one shape every stage offers it in. */
export interface DueItem<Kind extends string = string> {
  /** Stable name: the same thing again carries the same. */
  key: string;
  stage: DueStage;
  kind: Kind;
  urgency: Urgency;
  /** The lot it is of; null where it is of none. */
  lot: { code: string; title: string } | null;
  count: number;
  /** Of so many; equal to the count where it is no share. */
  of: number;
  /** Further words: which, or what of it. */
  note: string | null;
  /** When it is due; null for as soon as may be. */
  at: Date | null;
  /** Until when somebody has to be there; null for a moment. */
  until: Date | null;
  /** Where it is done: a path of the app. */
  path: string;
}

/** An item of nothing in particular, to begin with. */
export const DUE = {
  lot: null,
  count: 1,
  of: 1,
  note: null,
  at: null,
  until: null,
} as const satisfies Partial<DueItem>;
