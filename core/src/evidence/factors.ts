/** What capacity does with temperature and rate, and how well that is known. */
export interface CorrectionFactors {
  temperature: {
    /** Share per K below and above `kneeC`. */
    belowPerK: number;
    abovePerK: number;
    /** Standard uncertainty, share per K. */
    uPerK: number;
    source: string;
  };
  /** Exponent k of Q·(I / I_ref)^(k−1), and its standard uncertainty. */
  rate: { k: number; uK: number; source: string };
}

/** Below and above it capacity follows temperature differently, °C. */
export const TEMPERATURE_KNEE_C = 25;

/** House defaults of the handbook, chapter 3, "Making results comparable". */
export const HOUSE_FACTORS: CorrectionFactors = {
  temperature: { belowPerK: 0.005, abovePerK: 0.002, uPerK: 0.002, source: 'house default' },
  rate: { k: 1.03, uK: 0.015, source: 'house default' },
};
