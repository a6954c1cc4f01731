import type { ChannelLimits, RecipeConditions } from '../src/bench';

/** A prismatic LFP cell of 104 Ah and its claim. */
export const CONDITIONS: RecipeConditions = {
  ratedAh: 104,
  claimRateIt: 0.2,
  claimCutoffV: 2.5,
  chargeV: 3.65,
  storageV: 3.275,
  maxChargeA: 104,
  maxDischargeA: 208,
};

/** A channel that can do all a large cell needs but its full rate. */
export const CHANNEL_LIMITS: ChannelLimits = {
  minA: 0.05,
  maxA: 30,
  maxW: 150,
  minV: 0,
  maxV: 60,
  canCharge: true,
  canDischarge: true,
  wires: 4,
  currentGainPct: 0.1,
  currentOffsetA: 0.005,
  voltageGainPct: 0.05,
  voltageOffsetV: 0.002,
  resolutionV: 0.001,
  resolutionA: 0.001,
  reportS: 1,
  leadPlusMohm: 2,
  leadMinusMohm: 2,
  fuseA: 40,
  holderA: 50,
  enforcesCutoff: true,
};
