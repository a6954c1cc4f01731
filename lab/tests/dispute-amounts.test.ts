import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { cancelLot } from '../src/arrivals';
import type { DisputeSnapshot } from '../src/compute';
import {
  addPaper,
  changeDispute,
  disputeFileData,
  disputeFilePage,
  disputePaper,
  draftLetter,
  issueDisputeFile,
  lotDisputes,
  openDispute,
} from '../src/disputes';
import { lotBooks } from '../src/money';
import { claimedLot, type FreshLab, freshLab } from '../testing/fresh-lab';
import { failure } from '../testing/failure';

let fresh: FreshLab;
beforeAll(async () => {
  fresh = await freshLab();
});
afterAll(() => fresh.close());

describe('a dispute', () => {
  it('asks for something, and for no more than was paid unless it is meant', async () => {
    const lot = await claimedLot(fresh, 2);
    await fresh.lab.store.lots.update({ price: '100.00', discount: '10.00' }, { id: lot.id });
    const open = (more: object) =>
      openDispute(fresh.lab, fresh.admin, {
        lotId: lot.id,
        remedy: 'partialRefund',
        ask: 90,
        ground: 'all of it',
        language: 'en',
        ...more,
      });
    expect((await failure(open({ ask: 0 }))).message).toMatch(/above 0/);
    expect((await failure(open({ ask: 90.01 }))).message).toMatch(/More than was paid, 90\.00/);
    // What the grounds do not carry is said, or not asked for.
    const bare = await failure(open({ ground: ' ' }));
    expect(bare.message).toMatch(/carry 0\.00 EUR: say what the other 90\.00 EUR is for/);
    expect(bare.details).toMatchObject({ field: 'ground' });
    expect(
      (await failure(open({ ask: 120, remedy: 'return', certain: true, ground: null }))).message,
    ).toMatch(/carry 90\.00 EUR: say what the other 30\.00/);
    await open({ ask: 90, remedy: 'return', ground: null });
    const [view] = (await lotDisputes(fresh.lab, fresh.admin, { lotId: lot.id })).disputes;
    const { number } = await issueDisputeFile(fresh.lab, fresh.admin, {
      disputeId: view!.dispute.id,
    });
    const file = async () => {
      const { text } = await disputeFileData(fresh.lab, fresh.admin, { number });
      return JSON.parse(text) as DisputeSnapshot;
    };
    expect((await file()).order).toMatchObject({
      price: '100.00',
      discount: '10.00',
      paid: '90.00',
    });
    expect((await file()).grounds).toEqual([
      { kind: 'priceBack', text: 'The price, paid back', amount: '90.00' },
    ]);
    // The amount changed since: the file says so, and keeps what it says.
    const { id, version } = view!.dispute;
    await changeDispute(fresh.lab, fresh.admin, {
      id,
      version,
      remedy: 'return',
      ask: 80,
      language: 'en',
    });
    const page = await disputeFilePage(fresh.lab, fresh.admin, { number });
    expect(page.overtaken).toEqual(['amount']);
    const { number: next } = await issueDisputeFile(fresh.lab, fresh.admin, { disputeId: id });
    const later = await disputeFilePage(fresh.lab, fresh.admin, { number: next });
    expect(later.overtaken).toEqual([]);
    expect(later.snapshot.grounds!.map(({ kind, amount }) => [kind, amount])).toEqual([
      ['priceBack', '90.00'],
      ['notAsked', '−10.00'],
    ]);
  });

  it('whose grounds fell is not written down before the rest is told; what was sent says so itself', async () => {
    const lot = await claimedLot(fresh, 2);
    const price = (amount: string) =>
      fresh.lab.store.lots.update({ price: amount }, { id: lot.id });
    await price('100.00');
    const asked = { lotId: lot.id, remedy: 'return' as const, ask: 100, language: 'en' as const };
    const { id: disputeId } = await openDispute(fresh.lab, fresh.admin, asked);
    await price('60.00');
    const write = () => issueDisputeFile(fresh.lab, fresh.admin, { disputeId });
    expect((await failure(write())).message).toMatch(/carry 60\.00 EUR: say what the other 40\.00/);
    expect((await failure(draftLetter(fresh.lab, fresh.admin, { disputeId }))).message).toMatch(
      /carry 60\.00 EUR/,
    );
    await fresh.lab.store.disputing.disputes.update({ stage: 'sent' }, { id: disputeId });
    const { number } = await write();
    const { snapshot } = await disputeFilePage(fresh.lab, fresh.admin, { number });
    expect(snapshot.grounds!.map(({ kind, amount }) => [kind, amount])).toEqual([
      ['priceBack', '60.00'],
      ['askedBefore', '40.00'],
    ]);
  });

  it('keeps papers byte for byte, once', async () => {
    const lot = await claimedLot(fresh, 2);
    const { id: disputeId } = await openDispute(fresh.lab, fresh.admin, {
      lotId: lot.id,
      remedy: 'replace',
      ask: 0,
      language: 'en',
    });
    const keep = (bytes: number[]) =>
      addPaper(fresh.lab, fresh.admin, {
        disputeId,
        name: 'answer <1>.pdf',
        type: 'application/pdf',
        bytes: new Uint8Array(bytes),
      });
    const { id } = await keep([1, 2, 3, 250]);
    expect((await keep([1, 2, 3, 250])).id).toBe(id);
    const paper = await disputePaper(fresh.lab, fresh.admin, { id });
    expect([...paper.bytes]).toEqual([1, 2, 3, 250]);
    expect((await failure(keep([]))).message).toMatch(/something in it/);
    expect(
      (await lotDisputes(fresh.lab, fresh.admin, { lotId: lot.id })).disputes[0]!.papers,
    ).toMatchObject([{ name: 'answer <1>.pdf', size: 4 }]);
  });

  it('about a lot that was called off takes no letters', async () => {
    const lot = await claimedLot(fresh, 2);
    const { id: disputeId } = await openDispute(fresh.lab, fresh.admin, {
      lotId: lot.id,
      remedy: 'replace',
      ask: 0,
      language: 'en',
    });
    const { version } = (await fresh.lab.store.lots.one({ id: lot.id }))!;
    await cancelLot(fresh.lab, fresh.admin, { lotId: lot.id, version, reason: 'not worth it' });
    const refused = await failure(draftLetter(fresh.lab, fresh.admin, { disputeId }));
    expect(refused.message).toMatch(/called off/);
  });

  it('is proposed nothing as long as no cell was tested', async () => {
    const lot = await claimedLot(fresh, 4);
    await fresh.lab.store.lots.update({ price: '400.00' }, { id: lot.id });
    const books = await lotBooks(fresh.lab, fresh.admin, { lotId: lot.id });
    expect(books.units.tested).toBe(0);
    expect(books.remedies).toBeNull();
    expect(books.shortfall!.cents).toBe(0);
    expect(books.units.perKwhGoodCents).toBeNull();
  });
});
