import { median, medianAbsoluteDeviation, robustScores } from '../statistics';
import { NO_UNCERTAINTY } from '../units';

/** Readings of a string at two loads and one state of charge (handbook, chapter 4, "Load test"). */
export interface LoadStep {
  /** About how full it was, %. */
  stateOfChargePct: number;
  /** Currents of the two loads, A, not negative. */
  lowA: number;
  highA: number;
  /** Each cell on its own terminals at both loads, V; NaN where none was read. */
  lowV: readonly number[];
  highV: readonly number[];
  /** Terminals and bars at the higher load, °C; NaN where none was read. */
  jointC: readonly number[];
  /** Last digit of the voltmeter, V; that of a hand meter where it is not said. */
  lastDigitV?: number;
  /** Gain of the current reading, ± % (rectangular). */
  currentPct?: number;
}

/** One cell of a string at a load step, against the others. */
export interface CellUnderLoad {
  /** Place in the string, from 1. */
  place: number;
  /** Fall from the lower to the higher load, V. */
  sagV: number;
  mohm: number;
  /** Its standard uncertainty, mΩ: last digits of both voltages and the current’s gain. */
  mohmU: number;
  /** Power at the higher load, W. */
  watts: number;
  /** Robust z of its resistance in the string; null where all are alike. */
  z: number | null;
  standsOut: boolean;
}

/** A load step judged: spread, cells that sag more, joints that warm. */
export interface LoadTestStep {
  stateOfChargePct: number;
  cells: CellUnderLoad[];
  /** Highest minus lowest voltage at the higher load, V. */
  spreadV: number;
  /** Joints above their neighbours by more than `JOINT_K`. */
  hotJoints: { joint: number; celsius: number; aboveK: number }[];
}

/** A joint this much above its neighbours is looked at before anything else, K (handbook, chapter 4). */
export const JOINT_K = 5;
const STANDS_OUT_Z = 3.5;
/** A resistance within this share of the median is no matter, whatever its z. */
const SAME_SHARE = 0.05;
/** Last digit of a hand meter at a cell, V. */
const LAST_DIGIT_V = 0.001;
/** Gain of a load’s or clamp’s current where nothing is said, ± % (handbook, chapter 3). */
const CURRENT_PCT = 1;
/** Where all others are alike to the last digit, this much above them stands out. */
const PLAIN_SHARE = 0.25;

/**
 * Sag, resistance and power of each cell of a string between two loads, and joints that run hot.
 * @throws RangeError where the loads are not two, or cells were not read at both.
 */
export function loadTestStep(step: LoadStep): LoadTestStep {
  const { lowA, highA, lowV, highV, jointC, stateOfChargePct } = step;
  const { lastDigitV = LAST_DIGIT_V, currentPct = CURRENT_PCT } = step;
  if (!(lowA >= 0 && highA > lowA))
    throw new RangeError(`Expected a second load above the first; found ${lowA} and ${highA} A.`);
  if (lowV.length !== highV.length || lowV.length === 0)
    throw new RangeError(
      `Expected as many voltages at both loads; found ${lowV.length} and ${highV.length}.`,
    );
  const bare = lowV.map((low, i) => {
    const high = highV[i]!;
    if (!Number.isFinite(low) || !Number.isFinite(high))
      throw new RangeError(`Expected both voltages of cell ${i + 1}.`);
    return {
      place: i + 1,
      sagV: low - high,
      mohm: ((low - high) / (highA - lowA)) * 1000,
      mohmU: Math.hypot(
        ((lastDigitV * Math.SQRT2) / Math.sqrt(12) / (highA - lowA)) * 1000,
        ((currentPct / 100) * (((low - high) / (highA - lowA)) * 1000)) / Math.sqrt(3),
      ),
      watts: high * highA,
    };
  });
  const all = bare.map(({ mohm }) => mohm);
  const middle = median(all);
  // Differences below a meter’s last digit are none.
  const alike = medianAbsoluteDeviation(all) < (lastDigitV / (highA - lowA)) * 1000;
  const score = robustScores(all);
  const cells = bare.map((cell): CellUnderLoad => {
    const z = alike ? null : score(cell.mohm);
    return {
      ...cell,
      z,
      standsOut:
        // Read to a millivolt, most cells of a good string are alike: then a plain share decides.
        z === null
          ? all.length >= 4 && cell.mohm > middle * (1 + PLAIN_SHARE)
          : z > STANDS_OUT_Z && cell.mohm > middle * (1 + SAME_SHARE),
    };
  });
  const hotJoints = jointC.flatMap((celsius, i) => {
    const neighbours = [jointC[i - 1], jointC[i + 1]].filter(
      (one): one is number => one !== undefined && Number.isFinite(one),
    );
    if (!Number.isFinite(celsius) || neighbours.length === 0) return [];
    // Against the warmer neighbour: heat that comes from it is not the joint’s own.
    const aboveK = celsius - Math.max(...neighbours);
    return aboveK > JOINT_K ? [{ joint: i + 1, celsius, aboveK }] : [];
  });
  return { stateOfChargePct, cells, spreadV: Math.max(...highV) - Math.min(...highV), hotJoints };
}

/**
 * The highest load a string stood with no joint running hot; null where it stood none.
 * @example rateStood([{ highA: 52, result: { hotJoints: [] } }], 104) // { amps: 52, it: 0.5 }
 */
export function rateStood(
  steps: readonly { highA: number; result: Pick<LoadTestStep, 'hotJoints'> }[],
  ratedAh: number,
): { amps: number; it: number } | null {
  const stood = steps.filter(({ result }) => result.hotJoints.length === 0);
  if (stood.length === 0 || !(ratedAh > 0)) return null;
  const amps = Math.max(...stood.map(({ highA }) => highA));
  return { amps, it: amps / ratedAh };
}

/** A result of a pack or of a cell, Ah, with its standard uncertainty. */
export interface ChargeResult {
  ah: number;
  /** Standard uncertainty, Ah; null where it is not known. */
  u: number | null;
}

/** A pack's charge against that of its weakest cell (handbook, chapter 3). */
export interface PackJudgement {
  /** `open` where the uncertainty of one of them is not known. */
  says: 'agrees' | 'more' | 'less' | 'open';
  /** Pack less what its weakest group can give, Ah. */
  differenceAh: number;
  /** Of the difference, k = 2, Ah. */
  expandedAh: number | null;
  sentence: string;
}

/**
 * Capacity of a pack under load to its protection’s cut-off against its weakest cell: a string can
 * give no more than its weakest group, plus what balancing moves (handbook, chapter 4).
 * @throws RangeError for a capacity or a balanced charge below 0.
 */
export function packAgainstWeakest(
  pack: ChargeResult,
  weakest: ChargeResult & { name: string },
  balancedAh: number,
): PackJudgement {
  if (!(pack.ah >= 0 && weakest.ah >= 0 && balancedAh >= 0))
    throw new RangeError('Expected capacities and a balanced charge of 0 Ah or more.');
  const differenceAh = pack.ah - weakest.ah - balancedAh;
  if (pack.u === null || weakest.u === null)
    return {
      says: 'open',
      differenceAh,
      expandedAh: null,
      sentence: `Of ${pack.u === null ? 'the pack’s capacity' : weakest.name} there is ${NO_UNCERTAINTY}: it cannot be held against ${pack.u === null ? weakest.name : 'the pack'}.`,
    };
  const expandedAh = 2 * Math.hypot(pack.u, weakest.u);
  const most = `${weakest.name} gives ${weakest.ah.toFixed(1)} Ah${balancedAh > 0 ? `, balancing moves ${balancedAh.toFixed(1)} Ah` : ''}`;
  const off = `${Math.abs(differenceAh).toFixed(1)} Ah (U ${expandedAh.toFixed(1)} Ah)`;
  if (differenceAh > expandedAh)
    return {
      says: 'more',
      differenceAh,
      expandedAh,
      sentence: `The pack gave ${off} more than it can: ${most}. A meter is wrong, or that cell’s figure is: compare the meters in the circuit.`,
    };
  if (differenceAh < -expandedAh)
    return {
      says: 'less',
      differenceAh,
      expandedAh,
      sentence: `The pack gave ${off} less than its weakest cell can: ${most}. The protection ended it early, cells were not equally full, or a joint fell under load.`,
    };
  return {
    says: 'agrees',
    differenceAh,
    expandedAh,
    sentence: `The pack gave what its weakest cell can: ${most}.`,
  };
}
