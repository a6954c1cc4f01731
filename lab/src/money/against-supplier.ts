import {
  type Cents,
  type PaybackChance,
  paybackChance,
  type Remedies,
  remediesOf,
  type Shortfall,
  shortfallOf,
} from '@dusk-tally/core/money';
import type { DisputeRow, LotRow } from '@dusk-tally/store';
import type { Lab } from '../shared';
import type { CellLine } from '../verdicts';
import type { KeptBooks } from './lot-books';

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

/** Why the cells may not be sent back as they are; null where nothing speaks against it. */
async function mayNotShip(lab: Lab, lines: readonly CellLine[]): Promise<string | null> {
  const arrivals = await lab.store.arrivals.cells.find(
    { cellId: lines.map(({ id }) => id), worst: 'stop' },
    { columns: ['cellId'] },
  );
  if (arrivals.length === 0) return null;
  const bad = new Set(arrivals.map(({ cellId }) => cellId));
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
  /** What that is worked out of: the price paid, for so many cells of so many Ah. */
  pricedFor: { cents: Cents; cells: number; ah: number } | null;
  shortfall: Shortfall | null;
}

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
  if (claimAh === null || count === 0 || lot.price === null)
    return { centsPerClaimedAh: null, pricedFor: null, shortfall: null };
  const centsPerClaimedAh = paidCents / (count * claimAh);
  return {
    centsPerClaimedAh,
    pricedFor: { cents: paidCents, cells: count, ah: claimAh },
    shortfall: lacking(lines, claimAh, centsPerClaimedAh),
  };
}

/** The ways out; null where no cell was tested, or what keeping brings, or what returning pays, is not known. */
export async function waysOut(
  lab: Lab,
  lines: readonly CellLine[],
  kept: KeptBooks,
  money: {
    resaleCents: Cents | null;
    paidCents: Cents | null;
    shortfallCents: Cents;
    ownCents: Cents;
  },
): Promise<Remedies | null> {
  if (!lines.some(({ capacityAh, held }) => capacityAh !== null && held === null)) return null;
  const refundCents = kept.refundCents ?? money.paidCents;
  if (money.resaleCents === null || refundCents === null) return null;
  return remediesOf({
    resaleCents: money.resaleCents,
    resaleIsLeast: lines.some(({ grade }) => grade === null),
    refundCents,
    returnFreightCents: kept.returnFreightCents,
    packingMinutes: kept.packingMinutes,
    centsPerMinute: kept.centsPerMinute,
    partialRefundCents: kept.partialRefundCents,
    replacementCents: kept.replacementCents,
    mayNotShip: await mayNotShip(lab, lines),
    shortfallCents: money.shortfallCents,
    testingCents: kept.asksTesting ? money.ownCents : null,
  });
}
