import {
  planByRisk,
  rejectedWithDoubt,
  sequentialOutlook,
  sequentialPlan,
  sequentialState,
} from '../src/arrivals';
import { meanInterval, normalQuantile, seededRandom, twoHumps } from '../src/statistics';
import { rankedSuppliers, supplierShares } from '../src/suppliers';
import { type AssessedResult, judgeTypical, summariseItem } from '../src/verdicts';

/** What the results of one lab have in common, and what each scatters by, as shares. */
const COMMON = 0.003;
const SCATTER = 0.0015;
const CLAIM = 100;

/** Results of a lot by one lab: all off by the same, each by a little of its own. */
function lotResults(
  trueAh: readonly number[],
  random: ReturnType<typeof seededRandom>,
): AssessedResult[] {
  const common = 1 + COMMON * random.normal();
  return trueAh.map((ah, i) => ({
    cell: String(i),
    value: ah * common * (1 + SCATTER * random.normal()),
    standardUncertainty: ah * Math.hypot(COMMON, SCATTER),
    scatter: ah * SCATTER,
    bound: 'exact',
    state: 'described',
  }));
}

/** How often a typical claim is judged wrongly by lots whose true mean is the claim. */
export function typicalTrust(lots: number, cells: number, seed = 1) {
  const random = seededRandom(seed);
  let [met, notMet, tooClose, bare] = [0, 0, 0, 0];
  for (let lot = 0; lot < lots; lot++) {
    const ah = Array.from({ length: cells }, () => CLAIM * (1 + 0.01 * random.normal()));
    const results = lotResults(ah, random);
    const { state } = judgeTypical('capacity', CLAIM, results);
    if (state === 'met') met++;
    else if (state === 'notMet') notMet++;
    else tooClose++;
    // By the scatter alone, as a comparison.
    const interval = meanInterval(results.map(({ value }) => value))!;
    if (interval.high < CLAIM || interval.low > CLAIM) bare++;
  }
  return { met: met / lots, notMet: notMet / lots, tooClose: tooClose / lots, bare: bare / lots };
}

/** How often 95 % of cells really exceed the stated tolerance limit. */
export function toleranceTrust(lots: number, cells: number, seed = 1): number {
  const random = seededRandom(seed);
  // The fifth percentile of the population the lot is drawn from.
  const truth = CLAIM * (1 - 1.6449 * 0.01);
  let [held, given] = [0, 0];
  for (let lot = 0; lot < lots; lot++) {
    const ah = Array.from({ length: cells }, () => CLAIM * (1 + 0.01 * random.normal()));
    const { tolerance } = summariseItem(
      lotResults(ah, random).map((result) => ({ ...result, state: 'met' as const })),
      { low: CLAIM, high: null },
    );
    if (!tolerance?.limit) continue;
    given++;
    if (tolerance.limit.value <= truth) held++;
  }
  return held / given;
}

/** How often lots of one hump, skew, even or with heavy tails, are called mixed. */
export function skewedTrust(lots: number, cells: number, seed = 1): Record<string, number> {
  const random = seededRandom(seed);
  const exponential = () => -Math.log(1 - random.uniform());
  const chi = () => Array.from({ length: 4 }, () => random.normal() ** 2);
  const shapes: Record<string, () => number> = {
    normal: random.normal,
    'gamma(4)': () => exponential() + exponential() + exponential() + exponential(),
    'log-normal': () => Math.exp(0.5 * random.normal()),
    exponential,
    even: random.uniform,
    't(4)': () => random.normal() / Math.sqrt(chi().reduce((a, b) => a + b, 0) / 4),
  };
  return Object.fromEntries(
    Object.entries(shapes).map(([name, shape]) => {
      let alarms = 0;
      for (let lot = 0; lot < lots; lot++) {
        const values = Array.from({ length: cells }, () => 6 + 0.02 * shape());
        if (twoHumps(values, 1e-4)!.isMixed) alarms++;
      }
      return [name, alarms / lots];
    }),
  );
}

/** Share of labs in which four suppliers that are alike are told apart. */
export function equalSuppliersTrust(labs: number, lotsEach: number, seed = 1): number {
  const random = seededRandom(seed);
  /** Share of a lot that meets its claim: the same spread for all, Beta(4, 1) by order of uniforms. */
  const shareOfLot = () => random.uniform() ** (1 / 4);
  let apart = 0;
  for (let lab = 0; lab < labs; lab++) {
    const suppliers = Array.from({ length: 4 }, () =>
      Array.from({ length: lotsEach }, () => {
        const judged = 20 + Math.floor(220 * random.uniform());
        const share = shareOfLot();
        let met = 0;
        for (let i = 0; i < judged; i++) if (random.uniform() < share) met++;
        return { judged, met };
      }),
    );
    const ranked = rankedSuppliers(supplierShares(suppliers).shares);
    if (ranked.some(({ alikeTo }) => alikeTo.length < 3)) apart++;
  }
  return apart / labs;
}

/**
 * Lots of 240 of which so many are really short, sampled until decided, by a lab that measures to
 * ±0.8 %: accepted by the first result of each cell, and by the best of three.
 * @returns shares of lots, with what the lab states of the first.
 */
export function retestTrust(lots: number, shareShort: number, seed = 1) {
  const random = seededRandom(seed);
  const lotSize = 240;
  const risks = { producerRisk: 0.05, consumerRisk: 0.1 };
  const fixed = planByRisk({ lotSize, goodShare: 0.01, badShare: 0.08, ...risks });
  const plan = sequentialPlan({ lotSize, ...fixed, ...risks });
  const doubt = { relativeU: 0.008, spread: 0.01, guardFactor: 1 };
  const mean = normalQuantile(1 - shareShort) * doubt.spread;
  let [first, best] = [0, 0];
  for (let lot = 0; lot < lots; lot++) {
    const cells = Array.from(
      { length: plan.sampleSize },
      () => mean + doubt.spread * random.normal(),
    );
    const isShort = (cell: number) => cell + 0.004 * random.normal() < doubt.relativeU;
    const once = cells.map(isShort);
    const again = cells.map((cell, i) => once[i]! && isShort(cell) && isShort(cell));
    if (sequentialState(plan, once).decision === 'accept') first++;
    if (sequentialState(plan, again).decision === 'accept') best++;
  }
  const rejected = rejectedWithDoubt(
    shareShort,
    doubt,
    lotSize,
    (counted) => sequentialOutlook(plan, counted).reject,
  );
  return { first: first / lots, best: best / lots, stated: 1 - rejected };
}
