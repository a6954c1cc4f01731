import { cancelLot } from '@dusk-tally/lab/arrivals';
import { groundsCents } from '@dusk-tally/core/money';
import { draftLetter, issueDisputeFile, openDispute } from '@dusk-tally/lab/disputes';
import { lotBooks } from '@dusk-tally/lab/money';
import { addEarlierLot, addSupplierNote, setTarget } from '@dusk-tally/lab/records';
import { dayBefore, type Stage } from './basics';

/** Six lots two suppliers sold before the lab used the app, as its own papers tell them. */
const EARLIER = [
  {
    supplier: 'Saltmarsh Cell Trade',
    lots: [
      ['Buoy cells, first order', 'Marl 32700', 560, 120, 40, 39, 1.4, 0, 4, 2.3, 2.26, 311, null],
      ['Buoy cells, second', 'Marl 32700', 410, 240, 60, 58, 0.9, 1, 5, 4.61, 4.49, 604, null],
      ['Radio cells', 'Marl 32700', 230, 96, 24, 20, 0.2, 0, 9, 1.84, 1.75, 262.5, null],
    ],
  },
  {
    supplier: 'Hollin Reach Surplus',
    lots: [
      ['Workboat bank one', 'Sedge P104', 640, 16, 16, 14, 0.6, 0, 7, 5.32, 5.2, 742, null],
      [
        'Workboat bank two',
        'Sedge P104',
        380,
        32,
        32,
        9,
        -3.8,
        1,
        22,
        10.65,
        8.9,
        1498,
        'partial refund of 180 paid',
      ],
      ['Odd lot of forty', 'Sedge P104', 150, 40, 24, 5, -4.6, 2, 27, 13.3, 10.4, 1610, 'lost'],
    ],
  },
] as const;

async function earlierLots({ lab, admin, now }: Stage): Promise<void> {
  for (const { supplier, lots } of EARLIER) {
    const { id: supplierId } = (await lab.store.suppliers.one({ name: supplier }))!;
    for (const lot of lots) {
      const [title, model, ago, cells, judged, met, marginPct, dead, ageMonths, ...money] = lot;
      const [claimedKwh, goodKwh, landed, disputeOutcome] = money;
      await addEarlierLot(lab, admin, {
        supplierId,
        title,
        model,
        chemistry: 'LFP',
        arrivedOn: dayBefore(now, ago),
        cells,
        judged,
        met,
        marginPct,
        dead,
        ageMonths,
        copies: 0,
        daysToDeliver: 11 + (ago % 9),
        claimedKwh,
        goodKwh,
        landed,
        disputeOutcome,
      });
    }
  }
}

/** What is known of suppliers from before, lot B’s dispute, and lot E called off. */
export async function loadSuppliers(stage: Stage): Promise<void> {
  const { lab, admin, technician } = stage;
  await earlierLots(stage);
  const surplus = (await lab.store.suppliers.one({ name: 'Hollin Reach Surplus' }))!;
  await addSupplierNote(lab, technician, {
    supplierId: surplus.id,
    isHearsay: true,
    text: 'Sells what other yards sent back, they say.',
    source: 'a boatbuilder on the quay',
  });
  await addSupplierNote(lab, technician, {
    supplierId: surplus.id,
    isHearsay: false,
    text: 'Answers letters within a week; asks for photographs of the codes every time.',
    source: null,
  });
  await setTarget(lab, admin, { perKwh: 150, reason: 'what workboat banks bring, less own work' });
  const b = (await lab.store.lots.one({ code: 'L-002' }))!;
  // As much as its books carry: what it asks stands line by line in its file.
  const { grounds } = await lotBooks(lab, admin, { lotId: b.id });
  const { id: disputeId } = await openDispute(lab, admin, {
    lotId: b.id,
    remedy: 'partialRefund',
    ask: groundsCents(grounds.partialRefund) / 100,
    language: 'en',
  });
  await draftLetter(lab, technician, { disputeId });
  await issueDisputeFile(lab, admin, { disputeId });
  const e = (await lab.store.lots.one({ code: 'L-005' }))!;
  await cancelLot(lab, admin, {
    lotId: e.id,
    version: e.version,
    reason: 'A claim no such can could hold, and a quarter lighter than sold. Not worth a test.',
  });
}
