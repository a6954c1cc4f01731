import { type Lack, lackOf } from '@dusk-tally/core/money';
import { SHIPPED_SCHEME } from '@dusk-tally/core/verdicts';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { recordInspection, changeClaim, changeOrder } from '../src/arrivals';
import type { DisputeSnapshot } from '../src/compute';
import {
  disputeFileData,
  disputeFilePage,
  issueDisputeFile,
  lotDisputes,
  moveDispute,
  openDispute,
} from '../src/disputes';
import { importLog } from '../src/evidence';
import { keepBooks, type LotBooks, lotBooks } from '../src/money';
import { checkOffer, offerHints, setTarget, supplierRecords } from '../src/records';
import { issueReport, reportPage } from '../src/reports';
import { closeLab, type Lab } from '../src';
import { dueItems, openLots } from '../src/today';
import { figureTrail, lotCells, lotVerdict, saveScheme, tryScheme } from '../src/verdicts';
import { anotherProcess, claimedLot, type FreshLab, freshLab } from '../testing/fresh-lab';
import { logOf } from '../testing/holds-lab';

let now = new Date('2026-03-02T09:00:00Z');
let fresh: FreshLab;
/** The app as it runs now; after a restart another one. */
let lab: Lab;
beforeAll(async () => {
  fresh = await freshLab(() => now);
  ({ lab } = fresh);
});
afterAll(async () => {
  if (lab !== fresh.lab) await closeLab(lab);
  await fresh.close();
});

/** A lot bought, delivered today and tested: so many cells hold so much. */
async function boughtLot(price: number, capacities: readonly number[], seed: number) {
  const { admin } = fresh;
  const { id: lotId, version } = await claimedLot({ ...fresh, lab }, capacities.length);
  await changeOrder(lab, admin, {
    lotId,
    version,
    title: `Bought for ${price}`,
    orderedOn: '2026-02-20',
    arrivedOn: now.toISOString().slice(0, 10),
    orderedQuantity: capacities.length,
    price,
    discount: null,
    freight: 20,
    duty: null,
    fees: null,
    reason: 'the invoice',
  });
  const { version: next, code } = (await lab.store.lots.one({ id: lotId }))!;
  await changeClaim(lab, admin, {
    lotId,
    version: next,
    claim: [
      { kind: 'capacity', value: 104, conditions: { rateIt: 0.2, cutoffV: 2.5 } },
      { kind: 'disputeWindow', value: 14 },
    ],
  });
  const cells = await lotCells(lab, admin, { lotId });
  for (const [i, ah] of capacities.entries())
    await importLog(lab, admin, {
      lotId,
      cellId: cells[i]!.id,
      fileName: `story-${lotId}-${i}.csv`,
      bytes: logOf(ah, seed + i),
    });
  return { lotId, code, ids: cells.map(({ id }) => id) };
}

const prices = { First: 44, Second: 40, Utility: 28, Spares: 8, Recycle: 0 };
const verdictOf = (code: string) => lotVerdict(lab, fresh.admin, { code });
const booksOf = (lotId: number) => lotBooks(lab, fresh.admin, { lotId });

type Bought = Awaited<ReturnType<typeof boughtLot>>;
/** A lot that kept its word, with a report of it, and one that did not. */
let good: Bought;
let bad: Bought;
let report: string;
let issued: unknown;
let goodBefore: { verdict: unknown; books: LotBooks };
let chosen: Awaited<ReturnType<typeof booksOf>>;
/** The dispute, and its file with its number. */
let id: number;
let number: string;
let file: DisputeSnapshot;

const due = async () =>
  (await dueItems(lab, await openLots(lab))).filter(({ kind }) => kind === 'disputeEnds');

it('an offer is looked at with what a lot before it held', async () => {
  const { admin } = fresh;
  // A lot that kept its word, and a report of it, before the offer comes.
  good = await boughtLot(260, [107, 108, 107.5, 108.2, 106.9, 107.4], 500);
  await keepBooks(lab, admin, {
    lotId: good.lotId,
    version: 0,
    linePct: 80,
    gradePrices: prices,
  });
  ({ number: report } = await issueReport(lab, admin, {
    lotId: good.lotId,
    cellIds: good.ids,
    customer: 'A buyer',
  }));
  issued = (await reportPage(lab, admin, { number: report })).snapshot;
  await setTarget(lab, admin, { perKwh: 160, reason: 'what sets bring' });

  // The offer: it can be true, and says what it is worth.
  const hints = await offerHints(lab, admin, { text: 'LFP 104 Ah new, 8 pcs' });
  const cellsOffered = hints.find(({ kind }) => kind === 'quantity')!.value!;
  const offer = await checkOffer(lab, admin, {
    chemistry: 'LFP',
    claimedAh: hints.find(({ kind }) => kind === 'capacity')!.value!,
    cells: cellsOffered,
    price: 340,
    beside: 20,
  });
  expect(offer.plausibility.possible).toBe(true);
  expect(offer.cost!.cents).toBeGreaterThan(0);
  expect(offer.worthCents).toBeGreaterThan(0);
});

it('what is bought is not what was sold, and by how much can be true', async () => {
  const { admin } = fresh;
  // It is bought, and is not what was sold.
  bad = await boughtLot(340, [99, 98.5, 99.4, 107, 98.8, 99.1, 100, 98.9], 600);
  goodBefore = { verdict: await verdictOf(good.code), books: await booksOf(good.lotId) };
  await keepBooks(lab, admin, {
    lotId: bad.lotId,
    version: 0,
    linePct: 80,
    gradePrices: prices,
    returnFreight: 60,
  });
  const books = await booksOf(bad.lotId);
  expect(books.shortfall).toMatchObject({ cells: 7 });
  // Can it be true? Seven cells short by about five each, at 340 for 832 Ah.
  expect(books.shortfall!.ah).toBeGreaterThan(25);
  expect(books.shortfall!.ah).toBeLessThan(45);
  expect(books.shortfall!.cents / books.shortfall!.ah).toBeCloseTo(34_000 / 832, 0);
  expect(books.units.kwhTested).toBeLessThan((8 * 104 * 3.2) / 1000);
});

it('a scheme is tried and kept; after a restart every cell is of the grade that was said', async () => {
  const { admin } = fresh;
  // A scheme is tried, kept, and the app is killed and started again.
  const { version: _, ...shipped } = SHIPPED_SCHEME;
  const strict = {
    ...shipped,
    name: 'Strict',
    grades: shipped.grades.map((grade) =>
      grade.name === 'Utility'
        ? { ...grade, conditions: [{ kind: 'stateOfHealth' as const, limit: 0.94 }] }
        : grade,
    ),
  };
  const tried = await tryScheme(lab, admin, { scope: 'house', scheme: strict });
  expect(tried.lots.map(({ code }) => code)).not.toContain(good.code);
  await saveScheme(lab, admin, { scope: 'house', seen: 1, scheme: strict, reason: 'buyers ask' });
  lab = anotherProcess(fresh.url, () => now);
  const regraded = await lotCells(lab, admin, { lotId: bad.lotId });
  const moved = new Map(tried.moves.map(({ cellId, to }) => [cellId, to]));
  for (const { id, grade } of regraded) if (moved.has(id)) expect(grade).toBe(moved.get(id));
});

it('half of the window is gone: it is reminded of, an option chosen, the file made', async () => {
  const { admin } = fresh;
  // Half of the window is gone: it is reminded of; the option is chosen, and the file made.
  now = new Date('2026-03-10T09:00:00Z');
  expect((await due()).map(({ lot }) => lot!.code).sort()).toEqual([good.code, bad.code].sort());
  chosen = await booksOf(bad.lotId);
  const { options, askCents } = chosen.remedies!;
  expect(options.find(({ kind }) => kind === 'return')!.inHandCents).toBe(34_000 - 6000);
  ({ id } = await openDispute(lab, admin, {
    lotId: bad.lotId,
    remedy: 'partialRefund',
    ask: askCents / 100,
    language: 'en',
  }));
  ({ number } = await issueDisputeFile(lab, admin, { disputeId: id }));
  file = JSON.parse((await disputeFileData(lab, admin, { number })).text) as DisputeSnapshot;
  expect(file.shortAh).toHaveLength(7);
  expect(file.evidence.items).toHaveLength(8);
  expect(file.deadlineOn).toBe('2026-03-16');
  expect(file.items.find(({ words }) => words === 'Capacity')).toMatchObject({ notMet: 7, met: 1 });
  const { dispute } = (await lotDisputes(lab, admin, { lotId: bad.lotId })).disputes[0]!;
  await moveDispute(lab, admin, {
    id,
    version: dispute.version,
    stage: 'sent',
    day: '2026-03-10',
    text: 'by post',
  });
});

it('every figure of the file opens the result it was, and what is lacking adds up', async () => {
  const { admin } = fresh;
  const page = await disputeFilePage(lab, admin, { number });
  expect(page).toMatchObject({ number, lotCode: bad.code, snapshot: file });
  for (const { number: cell, capacity, energy, acResistance } of file.evidence.items)
    for (const figure of [capacity, energy, acResistance]) {
      if (!figure) continue;
      const trail = await figureTrail(lab, admin, { id: figure.resultId! });
      expect(trail.cell).toBe(cell);
      expect(trail.figure.value).toBe(figure.value);
      expect(2 * trail.figure.standardUncertainty!).toBeCloseTo(figure.U!, 9);
    }
  // From what the file names alone, as its reader would.
  const { shortfall, shortAh, evidence } = file;
  const { amount, cells, ah } = shortfall!.pricedFor!;
  const perAh = Number(amount) / (cells * ah);
  expect(perAh.toFixed(5)).toBe(shortfall!.perAh);
  const lacks = shortAh.map(({ number: cell }) => {
    const { value, U } = evidence.items.find((item) => item.number === cell)!.capacity!;
    return lackOf({ capacityAh: value, U }, evidence.claimedCapacityAh!);
  });
  const sum = (key: keyof Lack) => lacks.reduce((total, lack) => total + lack[key], 0);
  expect(sum('ah')).toBeCloseTo(shortfall!.ah, 9);
  expect((sum('ah') * perAh).toFixed(2)).toBe(shortfall!.amount);
  expect((sum('lowAh') * perAh).toFixed(2)).toBe(shortfall!.low);
  expect((sum('highAh') * perAh).toFixed(2)).toBe(shortfall!.high);
});

it('two days later only what nothing was sent about is reminded of, and nothing of the file changed', async () => {
  const { admin } = fresh;
  // Two days later: only the lot nothing was sent about is reminded of. A cell leaks, so nothing goes back.
  now = new Date('2026-03-12T09:00:00Z');
  expect((await due()).map(({ lot }) => lot!.code)).toEqual([good.code]);
  await recordInspection(lab, admin, {
    lotId: bad.lotId,
    clientKey: '6f9f3b1e-5d3e-4f0e-9a57-0c1f2f5b7a11',
    marks: [{ act: 'finding', cellIds: [bad.ids[0]!], code: 'leaking' }],
  });
  const after = await booksOf(bad.lotId);
  expect(after.remedies!.options.find(({ kind }) => kind === 'return')!.struckOut).toMatch(
    /may not be sent as ordinary goods/,
  );
  expect(after.shortfall, 'what it holds did not change').toEqual(chosen.shortfall);
  expect(JSON.parse((await disputeFileData(lab, admin, { number })).text)).toEqual(file);
  const paid = (await lotDisputes(lab, admin, { lotId: bad.lotId })).disputes[0]!.dispute;
  await moveDispute(lab, admin, {
    id,
    version: paid.version,
    stage: 'paid',
    day: '2026-03-12',
    text: 'on the account',
    amount: 50,
  });
});

it('the other lot and its report say what they said, and the record knows one from the other', async () => {
  const { admin } = fresh;
  // The other lot and its report say what they said; the record knows one from the other.
  expect(await verdictOf(good.code)).toEqual(goodBefore.verdict);
  // But for what is known of suppliers that pay, which the dispute about the other lot told.
  const [books, before] = [await booksOf(good.lotId), goodBefore.books];
  expect({ ...books, payback: null }).toEqual({ ...before, payback: null });
  expect(before.payback).toMatchObject({ chance: 0.5, all: { ended: 0, paid: 0 } });
  expect(books.payback).toMatchObject({
    own: { ended: 0, paid: 0 },
    all: { ended: 1, paid: 1 },
    chance: expect.closeTo(2 / 3, 9),
  });
  expect((await booksOf(bad.lotId)).payback).toMatchObject({ own: { ended: 1, paid: 1 } });
  expect((await reportPage(lab, admin, { number: report })).snapshot).toEqual(issued);
  const { suppliers } = await supplierRecords(lab, admin, {});
  expect(
    suppliers.map(({ lots, share }) => [
      lots[0]!.judged,
      lots[0]!.met,
      lots[0]!.dispute,
      share!.lots,
    ]),
  ).toEqual([
    [6, 6, null, 1],
    [8, 1, 'paid', 1],
  ]);
});
