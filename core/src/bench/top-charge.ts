/** Cells charged in parallel on one supply (handbook, chapter 2, "Durations"). */
export interface ParallelCharge {
  cells: number;
  /** Rated or claimed capacity of each, Ah. */
  ratedAh: number;
  /** State of charge at the start, 0 to 1. */
  fromStateOfCharge: number;
  supplyA: number;
}

/**
 * Least time a parallel bank takes to full, h: n·Q·(1 − SoC0) / I.
 * @example leastParallelHours({ cells: 8, ratedAh: 100, fromStateOfCharge: 0.5, supplyA: 40 }) // 10
 */
export const leastParallelHours = ({
  cells,
  ratedAh,
  fromStateOfCharge,
  supplyA,
}: ParallelCharge): number => (cells * ratedAh * (1 - fromStateOfCharge)) / supplyA;

/** What a bank that is full says of its cells. */
export interface FullTooEarly {
  /** Most that can have gone into each on average, Ah. */
  atMostIntoEachAh: number;
  /** Most each can hold on average, Ah. */
  atMostAh: number;
  leastHours: number;
  /** They cannot hold what they claim. */
  tooEarly: boolean;
  sentence: string;
}

/**
 * Charge put in cannot exceed the supply’s current times the time: a bank full much too early
 * cannot hold what it claims.
 * @param hours from start to full. @param startUncertainty of the state of charge, 0 to 1.
 * @throws RangeError for a state of charge outside 0 to 1, or a time of 0.
 * @example fullTooEarly({ cells: 8, ratedAh: 100, fromStateOfCharge: 0.5, supplyA: 40 }, 6).atMostAh // 60
 */
export function fullTooEarly(
  bank: ParallelCharge,
  hours: number,
  startUncertainty = 0.05,
): FullTooEarly {
  const { cells, ratedAh, fromStateOfCharge, supplyA } = bank;
  if (!(fromStateOfCharge >= 0 && fromStateOfCharge < 1))
    throw new RangeError('Expected a state of charge from 0 to below 1.');
  if (!(hours > 0)) throw new RangeError('Expected a time above 0 h.');
  const atMostIntoEachAh = (supplyA * hours) / cells;
  const atMostAh = atMostIntoEachAh / (1 - fromStateOfCharge);
  // The start is only known so well: even from the highest it may have been, they must hold less.
  const generousAh =
    atMostIntoEachAh / Math.max(0.02, 1 - Math.min(0.98, fromStateOfCharge + startUncertainty));
  const tooEarly = generousAh < ratedAh;
  const leastHours = leastParallelHours(bank);
  return {
    atMostIntoEachAh,
    atMostAh,
    leastHours,
    tooEarly,
    sentence: tooEarly
      ? `Full after ${hours.toFixed(1)} h, where ${cells} cells of ${ratedAh} Ah need at least ${leastHours.toFixed(1)} h at ${supplyA} A: at most ${atMostIntoEachAh.toFixed(1)} Ah went into each on average, so at most ${atMostAh.toFixed(0)} Ah each.`
      : `Full after ${hours.toFixed(1)} h; at least ${leastHours.toFixed(1)} h were expected at ${supplyA} A. This does not speak against the claim.`,
  };
}
