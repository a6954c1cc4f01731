import { attributePlan, type Level } from './iso-2859';
import { type OperatingPoint, operatingCurve } from './operating-curve';
import { planByRisk } from './risk-plan';

/** How many of a lot to test, and by which rule; shares and risks in per cent. */
export type PlanRequest =
  | { method: 'all' }
  | { method: 'attributes'; level: Level; aql: string }
  | {
      method: 'risk';
      goodPct: number;
      producerRiskPct: number;
      badPct: number;
      consumerRiskPct: number;
    };

/** A plan in numbers and words, with its operating characteristic. */
export interface DescribedPlan {
  lotSize: number;
  sampleSize: number;
  /** Acceptance number: up to so many short cells in the sample pass the lot. */
  acceptance: number;
  words: string;
  curve: OperatingPoint[];
}

/**
 * Works out a plan for a lot (handbook, chapter 1).
 * @throws RangeError for a lot size, AQL or risk that cannot be.
 */
export function describePlan(lotSize: number, request: PlanRequest): DescribedPlan {
  const plan = (sampleSize: number, acceptance: number, words: string): DescribedPlan => ({
    lotSize,
    sampleSize,
    acceptance,
    words,
    curve: operatingCurve({ lotSize, sampleSize, acceptance }),
  });
  switch (request.method) {
    case 'all':
      return plan(lotSize, 0, `All ${lotSize} cells are tested; every short one is found.`);
    case 'attributes': {
      const found = attributePlan(lotSize, request.level, request.aql);
      const letter =
        found.usedLetter === found.letter
          ? found.letter
          : `${found.letter}, by the arrow to ${found.usedLetter}`;
      return plan(
        found.testAll ? lotSize : found.sampleSize,
        found.acceptance,
        `ISO 2859-1, single, normal, level ${request.level}, AQL ${request.aql}. Letter ${letter}: n = ${found.sampleSize}, Ac = ${found.acceptance}, Re = ${found.rejection}.${found.testAll ? ' As many as the lot or more: test all.' : ''}`,
      );
    }
    case 'risk': {
      const found = planByRisk({
        lotSize,
        goodShare: request.goodPct / 100,
        badShare: request.badPct / 100,
        producerRisk: request.producerRiskPct / 100,
        consumerRisk: request.consumerRiskPct / 100,
      });
      return plan(
        found.sampleSize,
        found.acceptance,
        `n = ${found.sampleSize}, Ac = ${found.acceptance}. Exact: a lot with ${found.goodMarked} short is turned away with ${(100 * found.producerRisk).toFixed(2)} %, one with ${found.badMarked} short is taken with ${(100 * found.consumerRisk).toFixed(2)} %.`,
      );
    }
  }
}
