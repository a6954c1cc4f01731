import { normalCdf, normalQuantile } from '../../statistics';

/** What is asked of a plan that stops early: the fixed plan it is cut from, and the risks it keeps. */
export interface SequentialRequest {
  lotSize: number;
  /** Most cells it tests, and with how many short ones the lot is still accepted then. */
  sampleSize: number;
  acceptance: number;
  /** Short cells of the worst good lot, and the chance it may be turned away with. */
  goodMarked: number;
  producerRisk: number;
  /** Short cells of the best bad lot, and the chance it may be taken with. */
  badMarked: number;
  consumerRisk: number;
}

/** After so many results: at most so many short accept, at least so many reject. */
export interface StoppingLimits {
  /** −1 where no count accepts yet. */
  acceptAtMost: number;
  rejectAtLeast: number;
}

/** A plan that is drawn on after each result, with what it makes of its risks, exactly. */
export interface SequentialPlan extends SequentialRequest {
  /** Limits after 1, 2, … results; the last one always decides. */
  limits: readonly StoppingLimits[];
  /** Shares of the two stated risks Wald’s boundaries are drawn at; 0 where only curtailment is left. */
  strictness: Strictness;
  /** Exact chances: of turning the worst good lot away, of taking the best bad one. */
  exactProducerRisk: number;
  exactConsumerRisk: number;
}

/** Shares of the stated risks a boundary is drawn at: of wrongly rejecting, of wrongly accepting. */
export interface Strictness {
  producer: number;
  consumer: number;
}

/** Shares that are tried, the widest first. */
const SHARES = Array.from({ length: 16 }, (_, i) => 1 - i / 16);
const STRICTNESS: readonly Strictness[] = [
  ...SHARES.flatMap((producer) => SHARES.map((consumer) => ({ producer, consumer }))),
  { producer: 0, consumer: 0 },
];

/** Wald’s boundaries of the probability ratio, in short cells after m results. */
function waldLimits(
  { lotSize, goodMarked, badMarked, producerRisk, consumerRisk }: SequentialRequest,
  { producer, consumer }: Strictness,
): (m: number) => StoppingLimits {
  if (producer <= 0) return () => ({ acceptAtMost: -1, rejectAtLeast: Infinity });
  const half = 0.5 / lotSize;
  const good = Math.max(goodMarked / lotSize, half);
  const bad = Math.min(badMarked / lotSize, 1 - half);
  const [alpha, beta] = [producerRisk * producer, consumerRisk * consumer];
  const perShort = Math.log(bad / good);
  const perGood = Math.log((1 - bad) / (1 - good));
  const toAccept = Math.log(beta / (1 - alpha));
  const toReject = Math.log((1 - beta) / alpha);
  const shortAt = (boundary: number, m: number) => (boundary - m * perGood) / (perShort - perGood);
  return (m) => ({
    acceptAtMost: Math.floor(shortAt(toAccept, m) + 1e-9),
    rejectAtLeast: Math.ceil(shortAt(toReject, m) - 1e-9),
  });
}

/** Limits after each result: Wald’s, and where the fixed plan’s decision is certain already. */
export function stoppingLimits(
  request: SequentialRequest,
  strictness: Strictness,
): StoppingLimits[] {
  const { sampleSize, acceptance } = request;
  const wald = waldLimits(request, strictness);
  return Array.from({ length: sampleSize }, (_, i) => {
    const m = i + 1;
    const { acceptAtMost, rejectAtLeast } = wald(m);
    const certain = acceptance - (sampleSize - m);
    // Accepting with more short ones than the fixed plan takes would be no cut of it.
    return {
      acceptAtMost: Math.max(-1, certain, Math.min(acceptAtMost, acceptance, m)),
      rejectAtLeast: Math.min(acceptance + 1, Math.max(rejectAtLeast, 1)),
    };
  });
}

/** Chance of each end and the expected number of tests, for a lot with so many short cells. */
export interface SequentialOutlook {
  accept: number;
  reject: number;
  tests: number;
}

/**
 * What a sequential plan does with a lot, exactly: every way the results can come is followed,
 * drawn without replacement.
 * @param marked short cells in the lot.
 */
export function sequentialOutlook(
  { lotSize, limits }: Pick<SequentialPlan, 'lotSize' | 'limits'>,
  marked: number,
): SequentialOutlook {
  if (!Number.isInteger(marked) || marked < 0 || marked > lotSize)
    throw new RangeError(`Expected 0 to ${lotSize} short cells; found ${marked}.`);
  /** Chance of so many short ones, of being still undecided. */
  let going: number[] = [1];
  let [accept, reject, tests] = [0, 0, 0];
  limits.forEach(({ acceptAtMost, rejectAtLeast }, drawn) => {
    const next: number[] = Array<number>(going.length + 1).fill(0);
    going.forEach((chance, short) => {
      if (chance === 0) return;
      tests += chance;
      const isShort = Math.min(1, Math.max(0, (marked - short) / (lotSize - drawn)));
      next[short]! += chance * (1 - isShort);
      next[short + 1]! += chance * isShort;
    });
    going = next.map((chance, short) => {
      if (short >= rejectAtLeast) reject += chance;
      else if (short <= acceptAtMost) accept += chance;
      else return chance;
      return 0;
    });
  });
  return { accept, reject, tests };
}

/**
 * The sequential plan of a fixed one: Wald’s probability ratio test between its two risk points, cut at
 * the fixed sample, where the fixed plan decides, and stopped as soon as that decision is certain. Wald’s
 * boundaries keep the risks only nearly; of those drawn in so far that the exact chances of the cut plan
 * keep both, the ones with the fewest tests at the two risk points are taken (Wald 1947; handbook, chapter 4 and chapter 1 for the risks).
 * @throws RangeError where the fixed plan itself does not keep the risks, or the counts do not fit.
 */
export function sequentialPlan(request: SequentialRequest): SequentialPlan {
  const { lotSize, sampleSize, acceptance, goodMarked, badMarked } = request;
  if (sampleSize < 1 || sampleSize > lotSize || acceptance < 0 || acceptance >= sampleSize)
    throw new RangeError('Expected a sample of the lot, and an acceptance number below it.');
  if (!(goodMarked < badMarked && badMarked <= lotSize))
    throw new RangeError('Expected more short cells in the bad lot than in the good one.');
  let best: (SequentialPlan & { cost: number }) | null = null;
  for (const strictness of STRICTNESS) {
    const limits = stoppingLimits(request, strictness);
    const good = sequentialOutlook({ lotSize, limits }, goodMarked);
    const bad = sequentialOutlook({ lotSize, limits }, badMarked);
    const cost = good.tests + bad.tests;
    if (
      good.reject <= request.producerRisk + 1e-12 &&
      bad.accept <= request.consumerRisk + 1e-12 &&
      (best === null || cost < best.cost)
    )
      best = {
        ...request,
        limits,
        strictness,
        exactProducerRisk: good.reject,
        exactConsumerRisk: bad.accept,
        cost,
      };
  }
  if (!best) throw new RangeError('The fixed plan does not keep these risks.');
  const { cost: _cost, ...plan } = best;
  return plan;
}

/** Where a plan stands after some results. */
export interface SequentialState {
  decision: 'accept' | 'reject' | 'goOn';
  /** Fewest further results that could accept (all good) and that could reject (all short). */
  toAccept: number | null;
  toReject: number | null;
}

/** Fewest further results of one kind that decide; null where none can. */
function fewest(
  limits: readonly StoppingLimits[],
  { tested, short }: { tested: number; short: number },
  kind: 'good' | 'short',
): number | null {
  for (let more = 1; tested + more <= limits.length; more++) {
    const { acceptAtMost, rejectAtLeast } = limits[tested + more - 1]!;
    if (kind === 'good' && short <= acceptAtMost && short < rejectAtLeast) return more;
    if (kind === 'short' && short + more >= rejectAtLeast) return more;
  }
  return null;
}

/**
 * What a plan says after some results. A result too close to call counts as short.
 * @param results in the order the cells were drawn in; short ones as true.
 */
export function sequentialState(
  { limits }: Pick<SequentialPlan, 'limits'>,
  results: readonly boolean[],
): SequentialState {
  let short = 0;
  for (const [i, isShort] of results.entries()) {
    short += Number(isShort);
    const limit = limits[i];
    if (!limit) break;
    // What is decided stays so: later results pick nothing.
    if (short >= limit.rejectAtLeast) return { decision: 'reject', toAccept: null, toReject: null };
    if (short <= limit.acceptAtMost) return { decision: 'accept', toAccept: null, toReject: null };
  }
  const now = { tested: results.length, short };
  return {
    decision: 'goOn',
    toAccept: fewest(limits, now, 'good'),
    toReject: fewest(limits, now, 'short'),
  };
}

/** Expected number of tests against percent short, for a chart beforehand. */
export function averageSampleNumber(
  plan: Pick<SequentialPlan, 'lotSize' | 'limits'>,
  mostPercent = 30,
  points = 60,
): { marked: number; percentShort: number; tests: number; accept: number }[] {
  const most = Math.ceil((plan.lotSize * mostPercent) / 100);
  const step = Math.max(1, Math.ceil(most / points));
  const marks = Array.from({ length: Math.floor(most / step) + 1 }, (_, i) => i * step);
  return marks.map((marked) => {
    const { tests, accept } = sequentialOutlook(plan, marked);
    return { marked, percentShort: (100 * marked) / plan.lotSize, tests, accept };
  });
}

/** How a lab measures, and how cells of a lot usually differ. */
export interface MeasuringDoubt {
  /** Expanded uncertainty of a result, and standard deviation from cell to cell, as shares. */
  relativeU: number;
  spread: number;
  guardFactor: number;
}

/**
 * Chance that a lot with a share of short cells is rejected, the measuring doubt taken in: a result too
 * close to call counts as short. Cells are taken as spread normally about a mean that leaves that share
 * below the claim; a sound cell near the claim is then counted short more often than it is.
 * @param rejects chance of rejection by the count of cells that are counted short.
 */
export function rejectedWithDoubt(
  shareShort: number,
  { relativeU, spread, guardFactor }: MeasuringDoubt,
  lotSize: number,
  rejects: (counted: number) => number,
): number {
  const p = Math.min(1 - 1e-9, Math.max(1e-9, shareShort));
  // In units of the claim: the mean lies so far above it, results scatter by cell and by meter.
  const above = normalQuantile(1 - p) * spread;
  const scatter = Math.hypot(spread, relativeU / 2);
  const counted = normalCdf((guardFactor * relativeU - above) / scatter);
  return rejects(Math.min(lotSize, Math.round(counted * lotSize)));
}
