/** Conditions of the cells the simulated benches of tests hold: 6 Ah, LFP. */
export const CONDITIONS = {
  ratedAh: 6,
  claimRateIt: 0.2,
  claimCutoffV: 2.5,
  chargeV: 3.65,
  storageV: 3.275,
  maxChargeA: 6,
  maxDischargeA: 12,
};
