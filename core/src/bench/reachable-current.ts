import { formatNumber } from '../units';

/** What one place on the bench can do (handbook, chapter 2, "The instruments a lab has"). */
export interface ChannelLimits {
  /** Currents it can set, A. */
  minA: number;
  maxA: number;
  /** Most power, W. */
  maxW: number;
  /** Voltages it takes, V. */
  minV: number;
  maxV: number;
  canCharge: boolean;
  canDischarge: boolean;
  wires: 2 | 4;
  /** Current: gain in % of the reading, offset in A. */
  currentGainPct: number;
  currentOffsetA: number;
  /** Voltage: gain in % of the reading, offset in V. */
  voltageGainPct: number;
  voltageOffsetV: number;
  resolutionV: number;
  resolutionA: number;
  /** Time between its readings, s. */
  reportS: number;
  /** Resistance of its leads, plus and minus, mΩ. */
  leadPlusMohm: number;
  leadMinusMohm: number;
  /** Fuse or breaker in the line, A; null where there is none. */
  fuseA: number | null;
  /** Most its holder or clamps take, A. */
  holderA: number | null;
  /** Ends a discharge by itself at a cut-off that was set on it. */
  enforcesCutoff: boolean;
}

/** A fuse carries this share of its rating without end. */
export const FUSE_SHARE = 0.8;

/** The most current a channel can give or take, A, and what holds it there. */
export interface ReachableCurrent {
  amps: number;
  /** What holds it there, in words. */
  limit: string;
}

/**
 * The most current a channel reaches with a cell: the least of its own limit, its power at the
 * voltage it starts from, its holder, 0.8 of its fuse, and what the claim allows.
 * @param startV voltage at the start, V. @param claimedMaximumA null where none is stated.
 * @example reachableCurrent({ maxA: 40, maxW: 109.5, fuseA: 50, holderA: null }, 3.65, null).amps // 30
 */
export function reachableCurrent(
  limits: Pick<ChannelLimits, 'maxA' | 'maxW' | 'fuseA' | 'holderA'>,
  startV: number,
  claimedMaximumA: number | null,
): ReachableCurrent {
  const candidates: ReachableCurrent[] = [
    { amps: limits.maxA, limit: `the channel’s ${formatNumber(limits.maxA, 1)} A` },
    {
      amps: limits.maxW / startV,
      limit: `the channel’s ${formatNumber(limits.maxW, 0)} W at ${formatNumber(startV, 2)} V`,
    },
  ];
  if (limits.holderA !== null)
    candidates.push({
      amps: limits.holderA,
      limit: `its holder or clamps, ${formatNumber(limits.holderA, 1)} A`,
    });
  if (limits.fuseA !== null)
    candidates.push({
      amps: limits.fuseA * FUSE_SHARE,
      limit: `0.8 of its ${formatNumber(limits.fuseA, 0)} A fuse`,
    });
  if (claimedMaximumA !== null)
    candidates.push({
      amps: claimedMaximumA,
      limit: `the most the claim allows, ${formatNumber(claimedMaximumA, 1)} A`,
    });
  return candidates.reduce((least, one) => (one.amps < least.amps ? one : least));
}
