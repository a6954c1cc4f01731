/** What a rest says of a cell. */
export type RestOutcome =
  'keep' | 'fastLoss' | 'secondLook' | 'nonCritical' | 'reject' | 'belowCutoff';

/** Outcomes as they are told, with what follows. */
export const REST_OUTCOMES: Readonly<Record<RestOutcome, { words: string; follows: string }>> = {
  keep: { words: 'keeps its charge', follows: 'It may be graded for sets.' },
  fastLoss: { words: 'fast loss', follows: 'Usable, of its own grade, not for sets.' },
  secondLook: {
    words: 'looked at once more',
    follows: 'A capacity test once more, then it stands again.',
  },
  nonCritical: { words: 'non-critical use', follows: 'Named so, and not tested until it passes.' },
  reject: { words: 'rejected', follows: 'For non-critical use or recycling.' },
  belowCutoff: {
    words: 'below its cut-off',
    follows: 'To triage at once: read its voltage on arrival anew, and do not charge it before.',
  },
};

/** One look of a protocol: when it is due, and what its voltage says. */
export interface RestLook {
  /** Days since the charge it is due on; read earlier it does not close the rest. */
  dueDays: number;
  /** Better later: days it is due on where time allows. */
  preferDays: number | null;
  /** So many days it may be late before it is told as late. */
  toleranceDays: number;
  /** From the highest voltage down: at or above it the outcome holds. */
  steps: readonly { atLeastV: number; outcome: RestOutcome }[];
  /** Below all of them. */
  otherwise: RestOutcome;
}

/** A way to let cells stand and read them (handbook, chapter 4). */
export interface RestProtocol {
  name: string;
  version: number;
  /** `volts` for the 4.2 V class; `lot` where volts after full charge say little. */
  judges: 'volts' | 'lot';
  /** First reading, hours after the charge: what is lost before is relaxation. */
  firstHours: number;
  looks: readonly RestLook[];
  /** Least share of its capacity a cell keeps over the stand; null where that is not asked. */
  leastRetention: number | null;
}

const READ_AFTER_H = 24;

/** The protocols that ship; any edited copy is allowed (handbook, chapter 4). */
export const SHIPPED_PROTOCOLS: readonly RestProtocol[] = [
  {
    name: 'careful',
    version: 1,
    judges: 'volts',
    firstHours: READ_AFTER_H,
    looks: [
      {
        dueDays: 7,
        preferDays: 14,
        toleranceDays: 1,
        steps: [
          { atLeastV: 4.1, outcome: 'keep' },
          { atLeastV: 4.0, outcome: 'fastLoss' },
        ],
        otherwise: 'reject',
      },
    ],
    leastRetention: null,
  },
  {
    name: 'two-look',
    version: 1,
    judges: 'volts',
    firstHours: READ_AFTER_H,
    looks: [
      {
        dueDays: 7,
        preferDays: null,
        toleranceDays: 1,
        steps: [{ atLeastV: 4.05, outcome: 'keep' }],
        otherwise: 'secondLook',
      },
      {
        dueDays: 14,
        preferDays: null,
        toleranceDays: 1,
        steps: [{ atLeastV: 4.0, outcome: 'nonCritical' }],
        otherwise: 'reject',
      },
    ],
    leastRetention: null,
  },
  {
    name: 'against the lot',
    version: 1,
    judges: 'lot',
    firstHours: READ_AFTER_H,
    looks: [{ dueDays: 14, preferDays: null, toleranceDays: 1, steps: [], otherwise: 'keep' }],
    leastRetention: null,
  },
  {
    name: 'retention over 28 days',
    version: 1,
    judges: 'lot',
    firstHours: READ_AFTER_H,
    looks: [{ dueDays: 28, preferDays: null, toleranceDays: 1, steps: [], otherwise: 'keep' }],
    leastRetention: 0.96,
  },
];

/** How a look stands on a day of the rest. */
export type LookState = 'early' | 'due' | 'late';

/**
 * When a look stands, on a day of the rest: a reading before its due time counts as early and does
 * not close the rest (handbook, chapter 4).
 * @example lookState({ dueDays: 7, toleranceDays: 1 }, 8.5) // 'late'
 */
export function lookState(
  { dueDays, toleranceDays }: Pick<RestLook, 'dueDays' | 'toleranceDays'>,
  days: number,
): LookState {
  if (days < dueDays) return 'early';
  return days <= dueDays + toleranceDays ? 'due' : 'late';
}

/** What a look’s voltage says by itself; the lot may say worse. */
export function outcomeByVolts(
  { steps, otherwise }: Pick<RestLook, 'steps' | 'otherwise'>,
  voltageV: number,
): RestOutcome {
  const step = steps
    .toSorted((a, b) => b.atLeastV - a.atLeastV)
    .find(({ atLeastV }) => voltageV >= atLeastV);
  return step?.outcome ?? otherwise;
}

/** From best to worst: where two rules speak, the worse counts (handbook, chapter 4). */
const WORSE: readonly RestOutcome[] = [
  'keep',
  'fastLoss',
  'secondLook',
  'nonCritical',
  'reject',
  'belowCutoff',
];

/**
 * The worse of two outcomes.
 * @example worseOutcome('keep', 'fastLoss') // 'fastLoss'
 */
export const worseOutcome = (a: RestOutcome, b: RestOutcome): RestOutcome =>
  WORSE.indexOf(a) >= WORSE.indexOf(b) ? a : b;

/** Everything that speaks of one look. */
export interface LookEvidence {
  voltageV: number;
  /** Whether the cell loses faster than its lot; null where the lot cannot tell. */
  isFastLoser: boolean | null;
  /** Share of its capacity it kept, with its standard uncertainty; null where it was not tested. */
  retention: { value: number; standardUncertainty: number } | null;
}

/**
 * What a look comes to: by volts for the 4.2 V class, by the lot for every class, by the capacity that
 * was kept where the protocol asks for it; the worse counts.
 * @returns null where nothing can tell.
 */
export function outcomeOfLook(
  protocol: Pick<RestProtocol, 'judges' | 'leastRetention'>,
  look: RestLook,
  { voltageV, isFastLoser, retention }: LookEvidence,
): RestOutcome | null {
  const { judges, leastRetention } = protocol;
  const said: RestOutcome[] = [];
  if (judges === 'volts') said.push(outcomeByVolts(look, voltageV));
  if (isFastLoser !== null) said.push(isFastLoser ? 'fastLoss' : 'keep');
  if (leastRetention !== null && retention !== null)
    said.push(retention.value < leastRetention ? 'fastLoss' : 'keep');
  return said.length === 0 ? null : said.reduce(worseOutcome);
}
