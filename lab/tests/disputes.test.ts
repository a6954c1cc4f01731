import { randomUUID } from 'node:crypto';
import { canonicalJson } from '@dusk-tally/core/units';
import { beforeAll, describe, expect, it } from 'vitest';
import { changeClaim, changeOrder, keepOffer, recordInspection } from '../src/arrivals';
import type { DisputeSnapshot } from '../src/compute';
import {
  changeDispute,
  disputeFileData,
  disputeFilePdf,
  draftLetter,
  issueDisputeFile,
  keepLetter,
  letterWentOut,
  lotDisputes,
  moveDispute,
  NEXT_STAGES,
  openDispute,
  undoMove,
} from '../src/disputes';
import { recordReadings } from '../src/evidence';
import { lotBooks } from '../src/money';
import { supplierRecords } from '../src/records';
import { dueItems, openLots } from '../src/today';
import { failure } from '../testing/failure';
import { fresh, ids, logOf, lotId, take, useHoldsLab, verdict } from '../testing/holds-lab';
import { pdfText } from '../testing/pdf-text';

useHoldsLab();

/** After the lot was ordered. */
const DAY = '2026-11-20';

const told = () => lotDisputes(fresh.lab, fresh.admin, { lotId });
const newest = async () => (await told()).disputes[0]!;
const move = async (stage: 'sent', more: object = {}) => {
  const { dispute } = await newest();
  return moveDispute(fresh.lab, fresh.admin, {
    id: dispute.id,
    version: dispute.version,
    stage,
    day: DAY,
    text: 'by post',
    ...more,
  });
};
const dueNow = async () =>
  (await dueItems(fresh.lab, await openLots(fresh.lab))).filter(
    ({ kind }) => kind === 'disputeEnds',
  );

beforeAll(async () => {
  await take(6, logOf(99, 40));
  await take(7, logOf(97, 41));
  await recordReadings(fresh.lab, fresh.admin, {
    lotId,
    readings: ids.slice(0, 8).map((cellId) => ({
      cellId,
      kind: 'acResistance' as const,
      value: 0.43,
      decimals: 2,
      clientKey: randomUUID(),
    })),
  });
  await recordInspection(fresh.lab, fresh.admin, {
    lotId,
    clientKey: randomUUID(),
    marks: [
      { act: 'finding', cellIds: ids.slice(0, 3), code: 'scratches' },
      { act: 'clear', cellIds: ids.slice(3, 8) },
    ],
  });
  const lot = (await fresh.lab.store.lots.one({ id: lotId }))!;
  const day = (ago: number) => new Date(Date.now() - ago * 86_400_000).toISOString().slice(0, 10);
  await changeOrder(fresh.lab, fresh.admin, {
    lotId,
    version: lot.version,
    title: 'Prismatic',
    orderedOn: day(30),
    arrivedOn: day(12),
    orderedQuantity: 20,
    price: 850,
    discount: null,
    freight: null,
    duty: null,
    fees: null,
    reason: 'the invoice',
  });
  const after = (await fresh.lab.store.lots.one({ id: lotId }))!;
  await changeClaim(fresh.lab, fresh.admin, {
    lotId,
    version: after.version,
    claim: [
      {
        kind: 'capacity',
        value: 104,
        conditions: { rateIt: 0.2, cutoffV: 2.5, temperatureC: 25 },
      },
      { kind: 'acResistance', value: 0.5 },
      { kind: 'disputeWindow', value: 15 },
    ],
  });
  await keepOffer(fresh.lab, fresh.admin, { lotId, text: '104 Ah LFP, first grade, 20 pcs' });
});

describe('a dispute', () => {
  it('is reminded of while its window is open, and no more once something went out', async () => {
    expect(await told()).toMatchObject({ disputes: [], daysLeft: 3 });
    const [due] = await dueNow();
    expect(due).toMatchObject({
      stage: 'arrivals',
      path: expect.stringContaining('money/dispute'),
    });
    const books = await lotBooks(fresh.lab, fresh.admin, { lotId });
    expect(books.shortfall).toMatchObject({ cells: 2 });
    const open = () =>
      openDispute(fresh.lab, fresh.admin, {
        lotId,
        remedy: 'partialRefund',
        ask: books.shortfall!.cents / 100,
        language: 'en',
      });
    await open();
    expect((await failure(open())).message).toMatch(/is open already/);
    expect(await dueNow(), 'written is not sent').toHaveLength(1);
    const { dispute } = await newest();
    await changeDispute(fresh.lab, fresh.admin, {
      id: dispute.id,
      version: dispute.version,
      remedy: 'partialRefund',
      ask: 60,
      ground: 'eigene Arbeit',
      language: 'de',
    });
    expect((await failure(move('sent', { day: '2099-01-01' }))).message).toMatch(/Expected a day/);
    expect((await failure(move('sent', { day: '2026-01-20' }))).message).toMatch(
      /from the order on, 2026-11-02/,
    );
    expect((await newest()).events[0]).toMatchObject({
      stage: 'draft',
      cents: 6000,
      text: expect.stringMatching(/^The amount asked was changed from \d/),
    });
    await move('sent');
    expect(await dueNow()).toEqual([]);
    expect(
      await failure(
        changeDispute(fresh.lab, fresh.admin, {
          id: dispute.id,
          version: (await newest()).dispute.version,
          remedy: 'return',
          ask: 1,
          language: 'en',
        }),
      ),
    ).toMatchObject({ message: expect.stringContaining('does not change') });
  });

  it('goes from stage to stage, and what came back is on the supplier’s record', async () => {
    await move('answered' as 'sent');
    expect((await failure(move('agreed' as 'sent'))).message).toMatch(/how much/);
    await move('agreed' as 'sent', { amount: 45 });
    await move('paid' as 'sent', { amount: 45 });
    const { dispute, events } = await newest();
    expect(dispute).toMatchObject({ stage: 'paid', gotCents: 4500 });
    expect(events.map(({ stage }) => stage)).toEqual([
      'paid',
      'agreed',
      'answered',
      'sent',
      'draft',
      'draft',
    ]);
    expect((await failure(move('lost' as 'sent'))).message).toMatch(/From paid/);
    const stale = moveDispute(fresh.lab, fresh.admin, {
      id: dispute.id,
      version: 1,
      stage: 'answered',
      day: DAY,
      text: 'late',
    });
    expect((await failure(stale)).code).toBe('conflict');
    const { suppliers } = await supplierRecords(fresh.lab, fresh.admin, {});
    const own = suppliers.flatMap(({ lots }) => lots).find(({ id }) => id === lotId)!;
    expect(own.dispute).toBe('paid');
    for (const next of Object.values(NEXT_STAGES)) expect(next).not.toContain('draft');
  });

  it('a step noted by mistake is taken back, and both stay', async () => {
    const undo = async () => {
      const { dispute } = await newest();
      const { id, version } = dispute;
      return undoMove(fresh.lab, fresh.admin, { id, version, reason: 'the wrong lot' });
    };
    await undo();
    expect((await newest()).dispute).toMatchObject({ stage: 'agreed', gotCents: null });
    expect((await newest()).events[0]).toMatchObject({ stage: 'agreed', undoes: true });
    expect((await failure(undo())).message).toMatch(/no step to take back/);
    // More than was asked is asked about, and nothing is no payment.
    const pay = (more: object) => failure(move('paid' as 'sent', more));
    expect((await pay({ amount: 0 })).message).toMatch(/above 0.*lost/);
    expect((await pay({ amount: 60.01 })).message).toMatch(/More than was asked, 60\.00/);
    expect((await pay({ amount: 45, day: '2026-11-19' })).message).toMatch(
      /not before the last step, 2026-11-20/,
    );
    await move('paid' as 'sent', { amount: 60.01, certain: true });
    expect((await newest()).dispute).toMatchObject({ stage: 'paid', gotCents: 6001 });
    await undo();
    await move('paid' as 'sent', { amount: 45 });
  });
});

describe('a letter', () => {
  it('is drafted from the facts in the language, edited, and frozen once it went out', async () => {
    const { dispute } = await newest();
    const { id } = await draftLetter(fresh.lab, fresh.admin, { disputeId: dispute.id });
    const letter = (await newest()).letters.find((one) => one.id === id)!;
    const text = JSON.stringify(letter.body);
    expect(text).toContain('Sehr geehrte Damen und Herren');
    expect(text).toContain('2 von 8 verfehlen sie');
    expect(text).toContain('60,00 EUR');
    expect(text).toContain('Wir haben 8 von 20 Zellen geprüft');
    expect(text).toContain('Der Betrag setzt sich so zusammen');
    expect(text).toContain('eigene Arbeit: ');
    expect(letter.overtaken).toEqual([]);
    const edited = {
      type: 'doc',
      content: [{ type: 'paragraph', content: [{ type: 'text', text: 'Kürzer.' }] }],
    };
    const keep = (version: number, body: object = edited) =>
      keepLetter(fresh.lab, fresh.admin, { id, version, title: 'Kurz', body: body as never });
    await keep(1);
    expect((await failure(keep(1))).code).toBe('conflict');
    let deep: object = { type: 'paragraph' };
    for (let i = 0; i < 5000; i++) deep = { type: 'blockquote', content: [deep] };
    for (const wrong of [
      { type: 'script' },
      { type: 'doc', content: [{ type: 'text', text: 'x', marks: [{ type: 'link' }] }] },
      { type: 'doc', content: [{ type: 'text', text: 'x'.repeat(300_000) }] },
      deep,
    ])
      expect((await failure(keep(2, wrong))).code).toBe('invalid');
    await letterWentOut(fresh.lab, fresh.admin, { id, version: 2 });
    expect((await failure(keep(3))).message).toMatch(/went out/);
    expect((await newest()).letters[0]).toMatchObject({
      isSent: true,
      title: 'Kurz',
      body: edited,
    });
  });
});

describe('a dispute file', () => {
  it('holds everything that is argued with, and stays as it was made', async () => {
    const { dispute } = await newest();
    const { number } = await issueDisputeFile(fresh.lab, fresh.admin, { disputeId: dispute.id });
    expect(number).toMatch(/^X-\d{4}-0001$/);
    const { text, sha256 } = await disputeFileData(fresh.lab, fresh.admin, { number });
    const snapshot = JSON.parse(text) as DisputeSnapshot;
    expect(canonicalJson(snapshot)).toBe(text);
    const books = await lotBooks(fresh.lab, fresh.admin, { lotId });
    const short = snapshot.shortAh.reduce((sum, { ah }) => sum + ah, 0);
    expect(short).toBeCloseTo(books.shortfall!.ah, 9);
    expect(snapshot.shortfall!.ah).toBe(books.shortfall!.ah);
    expect(snapshot.verdict).toEqual({
      sentence: (await verdict()).words.headline,
      facts: (await verdict()).words.facts.map(({ text: fact }) => fact),
    });
    expect(snapshot.evidence.items).toHaveLength(20);
    // The lines carry the amount to the cent, and what is typed beyond them has its own.
    expect(snapshot.grounds!.map(({ kind }) => kind)).toEqual(['missingCharge', 'told']);
    const cents = snapshot.grounds!.reduce((sum, { amount }) => sum + 100 * Number(amount), 0);
    expect(cents).toBeCloseTo(6000, 6);
    expect(snapshot.grounds![1]!.text).toBe('eigene Arbeit');
    expect(snapshot.arrival).toContain('Found: scratches, 3 cells.');
    const pdf = await disputeFilePdf(fresh.lab, fresh.admin, { number });
    const page = await pdfText(pdf);
    for (const part of [
      `Akte ${number}`,
      'In Kürze',
      '104 Ah LFP, first grade, 20 pcs',
      'Gefunden: Kratzer, 3 Zellen.',
      '2 von 8 verfehlen sie',
      'Was fehlt',
      'aus 850,00 für 20 Zellen zu 104 Ah',
      'Wir bitten um eine Teilerstattung von 60,00 EUR',
      'Woraus der Betrag besteht',
      'Fehlende Ladung: 2 Zellen, ',
      'Messgeräte',
    ])
      expect(page, part).toContain(part);
    // What is measured later changes nothing of it.
    await take(8, logOf(95, 43));
    expect((await disputeFileData(fresh.lab, fresh.admin, { number })).sha256).toBe(sha256);
    // It says itself that it is overtaken; so does the letter, and its amount is still what is asked.
    expect((await newest()).files).toMatchObject([{ number, sha256, overtaken: ['evidence'] }]);
    expect((await newest()).letters[0]!.overtaken).toEqual(['evidence']);
    const none = disputeFilePdf(fresh.lab, fresh.admin, { number: 'X-1999-0001' });
    expect((await failure(none)).code).toBe('notFound');
  });
});
