import { centsText } from '@dusk-tally/core/money';
import type { DisputeRow, LotRow, Transaction } from '@dusk-tally/store';
import type { DisputedItem, DisputePicture, DisputeSnapshot } from '../compute';
import { makeSnapshot } from '../reports';
import type { Lab } from '../shared';
import type { LotItem } from '../verdicts';
import { arrivalLines } from './arrival-lines';
import { basisOf } from './basis';
import { type DisputeFacts, disputeFacts } from './facts';
import { groundLines, requireStillCarried } from './grounds';
import { missedItems } from './missed-cells';

/** Pictures in a file: few, and small. */
const MOST_PICTURES = 6;

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

/** The order with what was paid for it. */
const orderOf = (
  { orderedOn, orderedQuantity, price, discount, currency }: LotRow,
  { books }: DisputeFacts,
) => ({
  orderedOn,
  ordered: orderedQuantity,
  price,
  ...(books.pricedFor && discount !== null
    ? { discount, paid: centsText(books.pricedFor.cents) }
    : {}),
  currency,
});

/** A dispute file as it stands now, to be frozen, and a hash of what it stands on. */
export async function makeDisputeFile(
  lab: Lab,
  dispute: DisputeRow,
  { number, issuedBy }: { number: string; issuedBy: string },
  transaction: Transaction,
): Promise<{ snapshot: DisputeSnapshot; basis: string }> {
  const facts = await disputeFacts(lab, dispute.lotId);
  const { lot, supplier, verdict, lines, books, deadlineOn } = facts;
  requireStillCarried(dispute, books);
  const numberOf = new Map(lines.map(({ id, number: cell }) => [id, cell]));
  const [evidence, offers, pictures, arrivals, missed] = await Promise.all([
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
    missedItems(lab, lot.id, verdict.items, numberOf),
  ]);
  const claimedAh = evidence.claimedCapacityAh;
  const snapshot: DisputeSnapshot = {
    format: 'dusk-tally/dispute-file',
    formatVersion: 4,
    language: dispute.language,
    number,
    issuedAt: evidence.issuedAt,
    issuedBy,
    supplier: { name: supplier.name, place: supplier.place },
    order: orderOf(lot, facts),
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
    missed,
    arrival: arrivalLines(lot, arrivals),
    shortfall: shortfallOf(facts),
    remedy: remedyOf(dispute, books.currency),
    grounds: groundLines(dispute, books),
    evidence,
  };
  return { snapshot, basis: basisOf(facts) };
}
