import { attributePlan, type Level } from './iso-2859';
import { type OperatingPoint, operatingCurve } from './operating-curve';
import { planByRisk, type RiskPlan } from './risk-plan';
import {
  averageSampleNumber,
  sequentialOutlook,
  type SequentialPlan,
  sequentialPlan,
  type SequentialRequest,
} from './sequential';

/** How many of a lot to test, and by which rule; shares and risks in per cent. */
export type PlanRequest =
  | { method: 'all' }
  | { method: 'attributes'; level: Level; aql: string }
  | ({ method: 'risk' } & TwoRisks)
  /** By the same risks, drawn on after each result until it is decided. */
  | ({ method: 'sequential' } & TwoRisks);

/** What a plan by risk must keep: shares and chances in per cent. */
export interface TwoRisks {
  goodPct: number;
  producerRiskPct: number;
  badPct: number;
  consumerRiskPct: number;
}

/** A plan in numbers and words, with its operating characteristic. */
export interface DescribedPlan {
  lotSize: number;
  sampleSize: number;
  /** Acceptance number: up to so many short cells in the sample pass the lot. */
  acceptance: number;
  words: string;
  curve: OperatingPoint[];
  /** How a sequential plan stops, and how many it expects to test; null for one of a fixed number. */
  sequential: SequentialPlan | null;
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
    sequential: null,
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
      const found = fixedPlan(lotSize, request);
      return plan(
        found.sampleSize,
        found.acceptance,
        `n = ${found.sampleSize}, Ac = ${found.acceptance}. Exact: a lot with ${found.goodMarked} short is turned away with ${(100 * found.producerRisk).toFixed(2)} %, one with ${found.badMarked} short is taken with ${(100 * found.consumerRisk).toFixed(2)} %.`,
      );
    }
    case 'sequential':
      return sequentialDescribed(lotSize, request);
  }
}

/** The fixed plan that keeps two risks. */
const fixedPlan = (lotSize: number, request: TwoRisks): RiskPlan =>
  planByRisk({
    lotSize,
    goodShare: request.goodPct / 100,
    badShare: request.badPct / 100,
    producerRisk: request.producerRiskPct / 100,
    consumerRisk: request.consumerRiskPct / 100,
  });

/** What a sequential plan is cut from: the fixed one by the same risks. */
export function sequentialRequest(lotSize: number, request: TwoRisks): SequentialRequest {
  const { sampleSize, acceptance, goodMarked, badMarked } = fixedPlan(lotSize, request);
  return {
    lotSize,
    sampleSize,
    acceptance,
    goodMarked,
    badMarked,
    producerRisk: request.producerRiskPct / 100,
    consumerRisk: request.consumerRiskPct / 100,
  };
}

/** A plan that is drawn on after each result, with its exact risks and what it expects to test. */
function sequentialDescribed(lotSize: number, request: TwoRisks): DescribedPlan {
  const sequential = sequentialPlan(sequentialRequest(lotSize, request));
  const { sampleSize, acceptance, goodMarked, badMarked } = sequential;
  const good = sequentialOutlook(sequential, goodMarked);
  const bad = sequentialOutlook(sequential, badMarked);
  return {
    lotSize,
    sampleSize,
    acceptance,
    words: `At most n = ${sampleSize}, Ac = ${acceptance}, decided as soon as the results allow. Exact: a lot with ${goodMarked} short is turned away with ${(100 * good.reject).toFixed(2)} %, one with ${badMarked} short is taken with ${(100 * bad.accept).toFixed(2)} %; ${good.tests.toFixed(1)} and ${bad.tests.toFixed(1)} tests expected instead of ${sampleSize}. A result too close to call counts as short; a held one is passed over for the next of the order.`,
    curve: averageSampleNumber(sequential),
    sequential,
  };
}
