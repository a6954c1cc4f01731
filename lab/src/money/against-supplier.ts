import {
  type Cents,
  cellGroundsCents,
  centsTimes,
  type GroundCell,
  type Ground,
  type GroundFacts,
  groundsOf,
  lackOf,
  type PaybackChance,
  paybackChance,
  type Remedies,
  remediesOf,
  type Shortfall,
  shortfallOf,
} from '@dusk-tally/core/money';
import type { CellArrivalRow, DisputeRow, LotRow } from '@dusk-tally/store';
import type { KeptBooks } from '../lots';
import type { Lab } from '../shared';
import type { CellLine } from '../verdicts';
import type { GradeValue } from './lot-books';

/** Which disputes ended with money, of this supplier and of all; those that were dropped are not counted. */
export async function paidBefore(lab: Lab, supplierId: number): Promise<PaybackChance> {
  const { disputing, lots, suppliers } = lab.store;
  const [ended, bought, merged] = await Promise.all([
    disputing.disputes.find(
      { stage: ['paid', 'lost'] },
      { columns: ['lotId', 'stage', 'gotCents'] },
    ),
    lots.find({}, { columns: ['id', 'supplierId'] }),
    suppliers.find({ mergedInto: supplierId }, { columns: ['id'] }),
  ]);
  const own = new Set([supplierId, ...merged.map(({ id }) => id)]);
  const ofOwn = new Set(bought.filter((lot) => own.has(lot.supplierId)).map(({ id }) => id));
  const count = (rows: readonly Pick<DisputeRow, 'stage' | 'gotCents'>[]) => ({
    ended: rows.length,
    // Paid nothing is not paid.
    paid: rows.filter(({ stage, gotCents }) => stage === 'paid' && (gotCents ?? 0) > 0).length,
  });
  return paybackChance(count(ended.filter(({ lotId }) => ofOwn.has(lotId))), count(ended));
}

/** Cells that are dead, damaged or dangerous by the inspection. */
export const isDead = ({ worst, triage }: Pick<CellArrivalRow, 'worst' | 'triage'>): boolean =>
  worst === 'stop' || triage === 'discard';

/** Why the cells may not be sent back as they are; null where nothing speaks against it. */
function mayNotShip(
  lines: readonly CellLine[],
  arrivals: readonly Pick<CellArrivalRow, 'cellId' | 'worst'>[],
): string | null {
  const bad = new Set(arrivals.filter(({ worst }) => worst === 'stop').map(({ cellId }) => cellId));
  if (bad.size === 0) return null;
  const named = lines.filter(({ id }) => bad.has(id)).map(({ number }) => number);
  const words =
    named.length > 3
      ? `${named.slice(0, 3).join(', ')} and ${named.length - 3} more`
      : named.join(', ');
  return `${words}: damaged or dangerous by the inspection. Such cells may not be sent as ordinary goods; leave it to who is licensed for it.`;
}

/** What the cells lack against their claim: of held results and lower bounds nothing is said. */
const lacking = (lines: readonly CellLine[], claimAh: number, centsPerAh: number): Shortfall =>
  shortfallOf(
    lines.flatMap(({ capacityAh, capacityU, verdict, held, bound }) =>
      capacityAh === null || held !== null || bound !== 'exact'
        ? []
        : [{ capacityAh, U: capacityU, isShort: verdict === 'notMet' }],
    ),
    claimAh,
    centsPerAh,
  );

/** What an Ah cost as it was claimed, and what of them is not there. */
export interface Lacking {
  centsPerClaimedAh: number | null;
  /** And a cell; null where the order names no price. */
  centsPerCell: number | null;
  /** What that is worked out of: the price paid, for so many cells of so many Ah. */
  pricedFor: { cents: Cents; cells: number; ah: number } | null;
  shortfall: Shortfall | null;
}

const UNPRICED: Lacking = {
  centsPerClaimedAh: null,
  centsPerCell: null,
  pricedFor: null,
  shortfall: null,
};

/** The shortfall of a lot at its price per claimed Ah; null where the order names no price, or nothing is claimed. */
export function lackingOf(
  lot: LotRow,
  lines: readonly CellLine[],
  claimAh: number | null,
  paidCents: Cents,
): Lacking {
  // Of packs the order counts packs, not their cells.
  const ordered = lot.takenAs === 'cells' ? lot.orderedQuantity : null;
  const count = ordered || lines.length;
  if (count === 0 || lot.price === null) return UNPRICED;
  const centsPerCell = paidCents / count;
  if (claimAh === null) return { ...UNPRICED, centsPerCell };
  const centsPerClaimedAh = paidCents / (count * claimAh);
  return {
    centsPerClaimedAh,
    centsPerCell,
    pricedFor: { cents: paidCents, cells: count, ah: claimAh },
    shortfall: lacking(lines, claimAh, centsPerClaimedAh),
  };
}

/** Claims that speak of a better cell than came, where something contradicts them. */
const OF_ANOTHER_KIND = ['grade', 'condition', 'producedAfter'] as const;

/** What the best cells bring; null where the best grade has no price. */
const bestOf = ([best, ...others]: readonly GradeValue[]): Cents | null =>
  best === undefined || best.priceCents === null
    ? null
    : Math.max(best.priceCents, ...others.map(({ priceCents }) => priceCents ?? 0));

/** A cell as it speaks against what was sold. */
function groundCell(
  line: CellLine,
  claimAh: number | null,
  values: readonly GradeValue[],
  dead: ReadonlySet<number>,
): GroundCell {
  const { capacityAh, capacityU, held, bound, verdict, grade, against } = line;
  const isShort =
    claimAh !== null &&
    capacityAh !== null &&
    held === null &&
    bound === 'exact' &&
    verdict === 'notMet';
  const own = values.find((value) => value.grade === grade)?.priceCents ?? null;
  const best = bestOf(values);
  const isOther = OF_ANOTHER_KIND.some((kind) => against.includes(kind));
  return {
    lackAh: isShort ? lackOf({ capacityAh, U: capacityU }, claimAh).ah : 0,
    isDead: dead.has(line.id),
    lessCents: isOther && own !== null && best !== null ? Math.max(0, best - own) : 0,
  };
}

/** The ways out, and what an amount asked of the supplier can rest on, each part with its ground. */
export interface AgainstSupplier {
  /** Null where no cell was tested, or what keeping brings, or what returning pays, is not known. */
  remedies: Remedies | null;
  /** By what is asked for. */
  grounds: Record<DisputeRow['remedy'], Ground[]>;
}

/** What can be done about a lot that is not what was sold, and what can be asked for. */
export async function againstSupplier(
  lab: Lab,
  lines: readonly CellLine[],
  kept: KeptBooks,
  money: {
    resaleCents: Cents | null;
    values: readonly GradeValue[];
    paidCents: Cents | null;
    claimAh: number | null;
    lacking: Lacking;
    ownCents: Cents;
  },
): Promise<AgainstSupplier> {
  const arrivals = await lab.store.arrivals.cells.find(
    { cellId: lines.map(({ id }) => id) },
    { columns: ['cellId', 'worst', 'triage'] },
  );
  const { resaleCents, values, claimAh, lacking: priced } = money;
  const dead = new Set(arrivals.filter(isDead).map(({ cellId }) => cellId));
  const refundCents = kept.refundCents ?? money.paidCents;
  const testingCents = kept.asksTesting ? money.ownCents : null;
  const facts: GroundFacts = {
    cells: lines.map((line) => groundCell(line, claimAh, values, dead)),
    centsPerAh: priced.centsPerClaimedAh,
    centsPerCell: priced.centsPerCell,
    refundCents,
    wayBackCents: kept.returnFreightCents + centsTimes(kept.centsPerMinute, kept.packingMinutes),
    testingCents,
    breakEvenCents: null,
    offeredCents: kept.partialRefundCents,
  };
  const isTested = lines.some(({ capacityAh, held }) => capacityAh !== null && held === null);
  const ungraded = lines.filter(({ grade }) => grade === null).length;
  const best = bestOf(values);
  const remedies =
    !isTested || resaleCents === null || refundCents === null
      ? null
      : remediesOf({
          resaleCents,
          ungradedMostCents: ungraded === 0 ? 0 : best === null ? null : ungraded * best,
          refundCents,
          returnFreightCents: kept.returnFreightCents,
          packingMinutes: kept.packingMinutes,
          centsPerMinute: kept.centsPerMinute,
          partialRefundCents: kept.partialRefundCents,
          replacementCents: kept.replacementCents,
          mayNotShip: mayNotShip(lines, arrivals),
          lackingCents: cellGroundsCents(facts),
          testingCents,
        });
  const known = { ...facts, breakEvenCents: remedies?.breakEvenLeastCents ?? null };
  return {
    remedies,
    grounds: {
      partialRefund: groundsOf('partialRefund', known),
      return: groundsOf('return', known),
      replace: groundsOf('replace', known),
    },
  };
}
