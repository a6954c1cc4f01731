import { findingKind, monthsBetween } from '@dusk-tally/core/arrivals';
import { centsText } from '@dusk-tally/core/money';
import { median } from '@dusk-tally/core/statistics';
import { formatNumber } from '@dusk-tally/core/units';
import { disputeDeadline } from '@dusk-tally/core/verdicts';
import type {
  CellArrivalRow,
  DisputeRow,
  LotRow,
  SupplierRow,
  Transaction,
} from '@dusk-tally/store';
import type { DisputedItem, DisputePicture, DisputeSnapshot } from '../compute';
import { loadClaim } from '../lots';
import { booksOfLot, type LotBooks } from '../money';
import { makeSnapshot } from '../reports';
import { found, type Lab } from '../shared';
import {
  type CellLine,
  cellLines,
  headOf,
  type LotItem,
  type LotVerdict,
  verdictOfLot,
} from '../verdicts';

/** Pictures in a file: few, and small. */
const MOST_PICTURES = 6;

/** Everything known of a lot that is disputed. */
export interface DisputeFacts {
  lot: LotRow;
  supplier: SupplierRow;
  verdict: LotVerdict;
  books: LotBooks;
  lines: CellLine[];
  deadlineOn: string | null;
}

/** The last day of the window from the claim and the day of arrival; null where there is none. */
export async function deadlineOf(lab: Lab, lot: LotRow): Promise<string | null> {
  const { claim } = await loadClaim(lab, lot.id);
  const days = claim.items.find(({ kind }) => kind === 'disputeWindow')?.value ?? null;
  if (days === null || !lot.arrivedOn) return null;
  const window = disputeDeadline(days, lot.arrivedOn);
  return window.state === 'deadline' ? window.on : null;
}

/** Gathers what is known of a disputed lot now. */
export async function disputeFacts(lab: Lab, lotId: number): Promise<DisputeFacts> {
  const lot = found(await lab.store.lots.one({ id: lotId }), 'That lot');
  const head = await headOf(lab, lot);
  const lines = await cellLines(lab, lotId);
  const [verdict, books, deadlineOn] = await Promise.all([
    verdictOfLot(lab, head, lines),
    booksOfLot(lab, lotId),
    deadlineOf(lab, lot),
  ]);
  return { lot, supplier: head.supplier, verdict, books, lines, deadlineOn };
}

const counted = (n: number, one: string, many: string): string => `${n} ${n === 1 ? one : many}`;

/** What counting, inspection, codes and first readings found, in sentences. */
export function arrivalLines(lot: LotRow, arrivals: readonly CellArrivalRow[]): string[] {
  const inspected = arrivals.filter((one) => one.inspected).length;
  const findings = new Map<string, number>();
  for (const { found: codes } of arrivals)
    for (const code of JSON.parse(codes) as string[])
      findings.set(code, (findings.get(code) ?? 0) + 1);
  const ages = arrivals.flatMap(({ producedOn, producedUntil }) =>
    lot.arrivedOn && producedOn && producedUntil
      ? [monthsBetween(producedUntil, lot.arrivedOn)]
      : [],
  );
  const volts = arrivals.flatMap(({ firstV }) => firstV ?? []);
  return [
    lot.orderedQuantity === null || lot.takenAs === 'packs'
      ? `Counted: ${lot.quantity} cells.`
      : `Counted: ${lot.quantity} cells of ${lot.orderedQuantity} ordered.`,
    `Inspected: ${counted(inspected, 'cell', 'cells')}.`,
    ...[...findings]
      .sort((a, b) => b[1] - a[1])
      .map(([code, n]) => `Found: ${findingKind(code).words}, ${counted(n, 'cell', 'cells')}.`),
    ...(ages.length > 0
      ? [
          `Produced ${formatNumber(median(ages), 0)} months before arrival by their codes (middle of ${ages.length}).`,
        ]
      : []),
    ...(volts.length > 0
      ? [
          `First voltages: ${formatNumber(Math.min(...volts), 3)} V to ${formatNumber(Math.max(...volts), 3)} V (${volts.length}).`,
        ]
      : []),
  ];
}

/** Items in words are told by what contradicts them, numbers by their mean. */
function disputedItem({ words, claimed, counts, summary, unit, why, lot }: LotItem): DisputedItem {
  const interval = summary?.meanInterval ?? null;
  return {
    words,
    claimed,
    met: counts.met ?? 0,
    notMet: (counts.notMet ?? 0) + (counts.contradicted ?? 0),
    tooClose: counts.tooClose ?? 0,
    mean:
      summary && summary.mean !== null && interval
        ? { value: summary.mean, ...interval, unit: unit ?? '' }
        : null,
    why: [
      ...(lot && 'text' in lot ? [lot.text] : []),
      ...why.filter(({ state }) => state === 'contradicted').map(({ text }) => text),
    ],
  };
}

/** Pictures kept with the offer and the delivery, small; those set aside are not shown. */
async function picturesOf(lab: Lab, lotId: number): Promise<DisputePicture[]> {
  const { photos, photoMarks } = lab.store.arrivals;
  const rows = await photos.find(
    { lotId, subjectType: ['offer', 'lot', 'finding'] },
    { columns: ['id', 'name', 'thumb', 'width', 'height'], order: [['id', 'ASC']] },
  );
  const marks = await photoMarks.find(
    { photoId: rows.map(({ id }) => id) },
    { order: [['id', 'ASC']] },
  );
  const aside = new Map(marks.map(({ photoId, aside: isAside }) => [photoId, isAside]));
  return rows
    .filter(({ id }) => !aside.get(id))
    .slice(0, MOST_PICTURES)
    .map(({ name, thumb, width, height }) => ({
      name,
      width,
      height,
      jpeg: `data:image/jpeg;base64,${Buffer.from(thumb).toString('base64')}`,
    }));
}

/** The remedy with its amount, as it is asked. */
const remedyOf = ({ remedy, askCents }: DisputeRow, currency: string) => ({
  kind: remedy,
  amount: `${centsText(askCents)} ${currency}`,
});

function shortfallOf({ books }: DisputeFacts): DisputeSnapshot['shortfall'] {
  const { shortfall, centsPerClaimedAh, pricedFor, units } = books;
  if (!shortfall || centsPerClaimedAh === null || !pricedFor) return null;
  const { cells, ah, cents, lowCents, highCents, upperAh, upperCents } = shortfall;
  return {
    cells,
    tested: units.tested,
    ah,
    amount: centsText(cents),
    low: centsText(lowCents),
    high: centsText(highCents),
    upperAh,
    upper: centsText(upperCents),
    perAh: (centsPerClaimedAh / 100).toFixed(5),
    pricedFor: { ...pricedFor, amount: centsText(pricedFor.cents) },
  };
}

/** A dispute file as it stands now, to be frozen. */
export async function makeDisputeFile(
  lab: Lab,
  dispute: DisputeRow,
  { number, issuedBy }: { number: string; issuedBy: string },
  transaction: Transaction,
): Promise<DisputeSnapshot> {
  const facts = await disputeFacts(lab, dispute.lotId);
  const { lot, supplier, verdict, lines, books, deadlineOn } = facts;
  const [evidence, offers, pictures, arrivals] = await Promise.all([
    makeSnapshot(
      lab,
      {
        lotId: lot.id,
        cellIds: lines.map(({ id }) => id),
        customer: supplier.name,
        number,
        issuedBy,
        language: dispute.language,
      },
      transaction,
    ),
    lab.store.arrivals.offers.find({ lotId: lot.id }, { order: [['id', 'ASC']] }),
    picturesOf(lab, lot.id),
    lab.store.arrivals.cells.find({ lotId: lot.id }),
  ]);
  const claimedAh = evidence.claimedCapacityAh;
  return {
    format: 'dusk-tally/dispute-file',
    formatVersion: 3,
    language: dispute.language,
    number,
    issuedAt: evidence.issuedAt,
    issuedBy,
    supplier: { name: supplier.name, place: supplier.place },
    order: {
      orderedOn: lot.orderedOn,
      ordered: lot.orderedQuantity,
      price: lot.price,
      currency: lot.currency,
    },
    deadlineOn,
    offer: { texts: offers.map(({ text }) => text), pictures },
    verdict: {
      sentence: verdict.words.headline,
      facts: verdict.words.facts.map(({ text }) => text),
    },
    items: verdict.items.map(disputedItem),
    shortAh: lines.flatMap(({ number: cell, capacityAh, verdict: judged, held, bound }) =>
      claimedAh !== null && capacityAh !== null && judged === 'notMet' && !held && bound === 'exact'
        ? [{ number: cell, ah: Math.max(0, claimedAh - capacityAh) }]
        : [],
    ),
    arrival: arrivalLines(lot, arrivals),
    shortfall: shortfallOf(facts),
    remedy: remedyOf(dispute, books.currency),
    evidence,
  };
}
