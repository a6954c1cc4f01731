import { monthsBetween } from '@dusk-tally/core/arrivals';
import type { Chemistry } from '@dusk-tally/core/chemistry';
import { type Cents, GOOD_LINE, inHouseCents, landedCost } from '@dusk-tally/core/money';
import { mean, median, standardDeviation } from '@dusk-tally/core/statistics';
import { judgeTypical } from '@dusk-tally/core/verdicts';
import type {
  AssessmentRow,
  CellArrivalRow,
  EarlierLotRow,
  LotBooksRow,
  LotRow,
  StandingRow,
} from '@dusk-tally/store';
import { type EffectiveClaim, loadClaim, UNTOLD } from '../lots';
import { isDead, outlayOf } from '../money';
import { byLot, found, type Lab } from '../shared';

/** A lot as the record of its supplier counts it. */
export interface LotRecord {
  /** Tested here, or told by its own papers from before. */
  source: 'tested' | 'earlier';
  id: number;
  code: string | null;
  title: string;
  supplierId: number;
  model: string;
  chemistry: Chemistry | null;
  arrivedOn: string | null;
  cells: number;
  /** Cells judged against the claimed capacity; too close ones are in neither count. */
  judged: number;
  met: number;
  tooClose: number;
  /** Mean of capacity over claim, less 1, and how the cells spread. */
  margin: number | null;
  spread: number | null;
  /** Cells that came dead or dangerous. */
  dead: number | null;
  /** Median age on arrival, months. */
  ageMonths: number | null;
  /** Cells whose code stands on another one. */
  copies: number | null;
  daysToDeliver: number | null;
  claimedKwh: number | null;
  /** In good cells; where only some were tested, as if the others were like them. */
  goodKwh: number | null;
  tested: number;
  /** In the house’s currency; null where that is not known. */
  landedCents: Cents | null;
  dispute: string | null;
  calledOff: string | null;
}

/** Energy in good cells over the energy claimed; null where one of them is not known. */
export const yieldOf = ({ goodKwh, claimedKwh }: LotRecord): number | null =>
  goodKwh === null || !claimedKwh ? null : goodKwh / claimedKwh;

/** What a kWh in good cells cost; null without any. */
export const centsPerGoodKwh = ({ goodKwh, landedCents }: LotRecord): number | null =>
  !goodKwh || landedCents === null ? null : landedCents / goodKwh;

type Capacity = Pick<AssessmentRow, 'state' | 'value' | 'standardUncertainty' | 'bound' | 'cellId'>;

/** How many cells met the claimed capacity; a typical one is the lot’s as a whole, and counts once. */
function judgedOf(rows: readonly Capacity[], claim: EffectiveClaim) {
  const count = (state: AssessmentRow['state']) => rows.filter((row) => row.state === state).length;
  const [met, notMet, tooClose] = [count('met'), count('notMet'), count('tooClose')];
  const typical = rows.filter((row) => row.state === 'described');
  if (met + notMet + tooClose > 0 || typical.length === 0 || !claim.capacityAh)
    return { judged: met + notMet, met, tooClose };
  const { state } = judgeTypical(
    'capacity',
    claim.capacityAh.value,
    typical.map((row) => ({
      cell: String(row.cellId),
      state: row.state,
      value: row.value!,
      standardUncertainty: row.standardUncertainty,
      bound: row.bound ?? 'exact',
    })),
  );
  const isJudged = state === 'met' || state === 'notMet';
  return { judged: isJudged ? 1 : 0, met: state === 'met' ? 1 : 0, tooClose: 0 };
}

/** Good energy of a lot, as a share of the claimed one, over the cells whose capacity is known. */
function goodShare(rows: readonly Slim[], line: number): { share: number; tested: number } | null {
  const known = rows.flatMap(({ stateOfHealth, evidence }) => {
    const share = evidence.energyShare ?? evidence.capacityShare;
    return stateOfHealth === null || !share ? [] : [{ stateOfHealth, share: share.value }];
  });
  if (known.length === 0) return null;
  const good = known.filter(({ stateOfHealth }) => stateOfHealth >= line);
  return {
    share: good.reduce((sum, { share }) => sum + share, 0) / known.length,
    tested: known.length,
  };
}

/** Fewest tested cells that speak for the rest of their lot, where they are not half of it. */
const SPEAK_FOR_ALL = 5;
const speaksForAll = (tested: number, cells: number): boolean =>
  tested >= SPEAK_FOR_ALL || 2 * tested >= cells;

/** What a lot cost by the time it lay here, in the house’s currency. */
function landedOf(lot: LotRow, books: LotBooksRow | undefined, house: string): Cents | null {
  if (lot.price === null) return null;
  const { totalCents } = landedCost(outlayOf(lot, books ?? UNTOLD));
  if (lot.currency === house) return totalCents;
  return books?.rate ? inHouseCents(totalCents, books.rate) : null;
}

const daysBetween = (from: string | null, to: string | null): number | null =>
  from === null || to === null
    ? null
    : Math.round((Date.parse(to) - Date.parse(from)) / 86_400_000);

/** Months between production and arrival, of the cells whose code tells it. */
function ageOf(lot: LotRow, arrivals: readonly CellArrivalRow[]): number | null {
  const months = arrivals.flatMap(({ producedOn, producedUntil }) =>
    lot.arrivedOn && producedOn && producedUntil
      ? [
          (monthsBetween(producedOn, lot.arrivedOn) + monthsBetween(producedUntil, lot.arrivedOn)) /
            2,
        ]
      : [],
  );
  return months.length === 0 ? null : median(months);
}

type Slim = Pick<StandingRow, 'cellId' | 'lotId' | 'stateOfHealth' | 'evidence'>;

/** Everything of one lot that its record is made of. */
interface LotFacts {
  lot: LotRow;
  claim: EffectiveClaim;
  nominalV: number;
  model: { name: string; chemistry: Chemistry };
  books: LotBooksRow | undefined;
  standings: readonly Slim[];
  capacities: readonly Capacity[];
  arrivals: readonly CellArrivalRow[];
  dispute: string | null;
  house: string;
}

function recordOf(facts: LotFacts): LotRecord {
  const { lot, claim, arrivals, model } = facts;
  const margins = facts.standings.flatMap(({ evidence }) =>
    // What is only known to be at least so much says nothing of a mean.
    evidence.capacityShare?.bound === 'exact' ? [evidence.capacityShare.value - 1] : [],
  );
  const good = goodShare(facts.standings, facts.books?.line ?? GOOD_LINE);
  const claimedAh = claim.capacityAh?.value ?? null;
  const claimedKwh =
    claimedAh === null || lot.quantity === 0
      ? null
      : (lot.quantity * claimedAh * facts.nominalV) / 1000;
  const looked = arrivals.filter(({ inspected, triage }) => inspected || triage !== null);
  const coded = arrivals.filter(({ found: marks }) => marks.includes('copiedCode'));
  return {
    source: 'tested',
    id: lot.id,
    code: lot.code,
    title: lot.title,
    supplierId: lot.supplierId,
    model: model.name,
    chemistry: model.chemistry,
    arrivedOn: lot.arrivedOn,
    cells: lot.quantity,
    ...judgedOf(facts.capacities, claim),
    margin: margins.length === 0 ? null : mean(margins),
    spread: margins.length < 2 ? null : standardDeviation(margins),
    dead: looked.length === 0 ? null : looked.filter(isDead).length,
    ageMonths: ageOf(lot, arrivals),
    copies: looked.length === 0 ? null : coded.length,
    daysToDeliver: daysBetween(lot.orderedOn, lot.arrivedOn),
    claimedKwh,
    goodKwh:
      good === null || claimedKwh === null || !speaksForAll(good.tested, lot.quantity)
        ? null
        : good.share * claimedKwh,
    tested: good?.tested ?? 0,
    landedCents: landedOf(lot, facts.books, facts.house),
    dispute: facts.dispute,
    calledOff: lot.cancelledAt === null ? null : (lot.cancelReason ?? ''),
  };
}

/** A lot from before the app, as its papers tell it. */
export const earlierRecord = (row: EarlierLotRow): LotRecord => ({
  source: 'earlier',
  id: row.id,
  code: null,
  title: row.title,
  supplierId: row.supplierId,
  model: row.model,
  chemistry: row.chemistry,
  arrivedOn: row.arrivedOn,
  cells: row.cells,
  judged: row.judged,
  met: row.met,
  tooClose: 0,
  margin: row.margin,
  spread: null,
  dead: row.dead,
  ageMonths: row.ageMonths,
  copies: row.copies,
  daysToDeliver: row.daysToDeliver,
  claimedKwh: row.claimedKwh,
  goodKwh: row.goodKwh,
  tested: row.judged,
  landedCents: row.landedCents,
  dispute: row.disputeOutcome,
  calledOff: null,
});

const DISPUTE_WORDS: Record<string, string> = {
  draft: 'being written',
  sent: 'open',
  answered: 'open, answered',
  agreed: 'agreed',
  paid: 'paid',
  lost: 'lost',
  dropped: 'dropped',
};

/** Records of all lots, those from before the app among them; lots called off with their reason. */
export async function lotRecords(lab: Lab): Promise<LotRecord[]> {
  const { store } = lab;
  const [lots, settings, books, standings, capacities, arrivals, disputes, earlier] =
    await Promise.all([
      store.lots.find({}, { order: [['id', 'ASC']] }),
      store.settings.one({ id: 1 }),
      store.books.find({}),
      store.verdicts.standings.find(
        {},
        { columns: ['cellId', 'lotId', 'stateOfHealth', 'evidence'] },
      ),
      store.verdicts.assessments.find(
        { item: 'capacity' },
        { columns: ['cellId', 'lotId', 'state', 'value', 'standardUncertainty', 'bound'] },
      ),
      store.arrivals.cells.find({}),
      store.disputing.disputes.find({}, { order: [['id', 'ASC']] }),
      store.supplying.earlierLots.find({ takenBackAt: null }, { order: [['arrivedOn', 'ASC']] }),
    ]);
  const house = found(settings, 'The lab’s settings').currency;
  const [byStanding, byCapacity, byArrival] = [
    byLot(standings),
    byLot(capacities),
    byLot(arrivals),
  ];
  const tested = await Promise.all(
    lots.map(async (lot) => {
      const { claim, profile, model } = await loadClaim(lab, lot.id);
      const stage = disputes.findLast(({ lotId }) => lotId === lot.id)?.stage;
      return recordOf({
        lot,
        claim,
        nominalV: profile.nominalV,
        model,
        books: books.find(({ lotId }) => lotId === lot.id),
        standings: byStanding.get(lot.id) ?? [],
        capacities: byCapacity.get(lot.id) ?? [],
        arrivals: byArrival.get(lot.id) ?? [],
        dispute: stage === undefined ? null : (DISPUTE_WORDS[stage] ?? stage),
        house,
      });
    }),
  );
  return [...earlier.map(earlierRecord), ...tested];
}
