import type { Estimate } from '../../units';

/** How a figure of a grade is written and which side of its limit is the good one. */
export interface GradeFigure {
  /** As it is said in reasons. */
  words: string;
  /** What a cell waits for that has no such figure. */
  missing: string;
  good: 'atLeast' | 'atMost';
  unit: 'share' | 'months' | 'V' | 'z' | 'times';
  /** Limits that make sense, in the unit itself (shares: 1 = 100 %). */
  from: number;
  to: number;
  /** Capacity itself: before it is known a cell has no grade at all. */
  isCapacity?: true;
  /** Needs the other cells of the lot. */
  ofLot?: true;
}

/** Figures a condition can be on, as numbers (handbook, chapter 5, "Grading a cell"). */
export const GRADE_FIGURES = {
  stateOfHealth: {
    words: 'SoH',
    missing: 'a capacity test',
    good: 'atLeast',
    unit: 'share',
    from: 0.01,
    to: 2,
    isCapacity: true,
  },
  capacityShare: {
    words: 'capacity against claim',
    missing: 'a capacity test at the claim’s conditions',
    good: 'atLeast',
    unit: 'share',
    from: 0.01,
    to: 2,
    isCapacity: true,
  },
  energyShare: {
    words: 'energy against claim',
    missing: 'a discharge with its log',
    good: 'atLeast',
    unit: 'share',
    from: 0.01,
    to: 2,
    isCapacity: true,
  },
  acResistanceShare: {
    words: 'AC resistance against claim',
    missing: 'an AC resistance reading',
    good: 'atMost',
    unit: 'share',
    from: 0.1,
    to: 20,
  },
  acResistanceOfLot: {
    words: 'AC resistance against the lot’s median',
    missing: 'AC resistance readings of five cells of the lot',
    good: 'atMost',
    unit: 'share',
    from: 0.1,
    to: 20,
    ofLot: true,
  },
  dcResistanceShare: {
    words: 'DC resistance against claim',
    missing: 'a DC resistance at the claim’s step',
    good: 'atMost',
    unit: 'share',
    from: 0.1,
    to: 20,
  },
  dcResistanceOfLot: {
    words: 'DC resistance against the lot’s median',
    missing: 'DC resistances of five cells of the lot',
    good: 'atMost',
    unit: 'share',
    from: 0.1,
    to: 20,
    ofLot: true,
  },
  massOff: {
    words: 'mass off the claim',
    missing: 'its mass',
    good: 'atMost',
    unit: 'share',
    from: 0,
    to: 1,
  },
  thicknessShare: {
    words: 'thickness against claim',
    missing: 'its thickness',
    good: 'atMost',
    unit: 'share',
    from: 0.5,
    to: 3,
  },
  ageMonths: {
    words: 'age on arrival',
    missing: 'its production date',
    good: 'atMost',
    unit: 'months',
    from: 0,
    to: 600,
  },
  earlyRise: {
    words: 'early rise on charge against the lot',
    missing: 'charge curves of five cells of the lot',
    good: 'atMost',
    unit: 'z',
    from: 0,
    to: 100,
    ofLot: true,
  },
  recoveries: {
    words: 'recoveries from deep discharge',
    missing: 'a first voltage',
    good: 'atMost',
    unit: 'times',
    from: 0,
    to: 100,
  },
  cyclesSeen: {
    words: 'discharges measured here',
    missing: 'a discharge',
    good: 'atMost',
    unit: 'times',
    from: 0,
    to: 10_000,
  },
  deepestV: {
    words: 'lowest voltage ever read',
    missing: 'a first voltage',
    good: 'atLeast',
    unit: 'V',
    from: 0,
    to: 5,
  },
} as const satisfies Record<string, GradeFigure>;

/** Names of the figures. */
export type GradeFigureName = keyof typeof GRADE_FIGURES;

/** All of them, in the order they are offered. */
export const GRADE_FIGURE_NAMES = Object.keys(GRADE_FIGURES) as GradeFigureName[];

/** A figure’s description, as one type. */
export const gradeFigure = (name: GradeFigureName): GradeFigure => GRADE_FIGURES[name];

/** Findings from the best to the worst, as conditions name them. */
export const FINDING_LEVELS = ['none', 'note', 'serious', 'stop'] as const;
/** How bad the worst finding of a cell is. */
export type FindingLevel = (typeof FINDING_LEVELS)[number];

/** Figures a grade can depend on. Those not yet measured are absent. */
export interface GradeEvidence extends Partial<Record<GradeFigureName, Estimate>> {
  /** Charge kept at rest: judged elsewhere, `met` when the cell loses no charge. */
  selfDischarge?: 'met' | 'notMet' | 'tooClose';
  /** Worst inspection finding. */
  inspection?: FindingLevel;
  /** It was charged with its temperature watched: `met` where it stayed cool. */
  heat?: 'met' | 'notMet';
  /** Marks no scheme can lift (handbook, chapter 5). */
  marks?: {
    /** It grew hot, leaked or swelled to a stop, in words. */
    dangerous?: string;
    /** Below this many volts once, below 1.0 V. */
    deepestV?: number;
  };
}

/** What is kept of a cell to be graded by: without what the other cells of its lot decide. */
export interface KeptEvidence extends GradeEvidence {
  /** What is held against the lot’s medians, mΩ. */
  own?: { acMohm?: Estimate; dcMohm?: Estimate };
}
