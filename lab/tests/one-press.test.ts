import { randomUUID } from 'node:crypto';
import { beforeAll, describe, expect, it } from 'vitest';
import { sentAct } from '../src';
import { makeToken } from '../src/bench';
import { draftLetter, issueDisputeFile, lotDisputes, openDispute } from '../src/disputes';
import { addPersonWithPassword } from '../src/people';
import { addEarlierLot, addSupplierNote } from '../src/records';
import { issueReport, listReports, reportPage, reportPdf } from '../src/reports';
import { setAside } from '../src/verdicts';
import { failure } from '../testing/failure';
import { anotherProcess } from '../testing/fresh-lab';
import { fresh, ids, logOf, lotId, take, useHoldsLab } from '../testing/holds-lab';

useHoldsLab();

const reports = () => fresh.lab.store.reports.count({});

/** Sends one press several times at once, and once more behind them. */
async function sent<I, R>(
  act: (lab: typeof fresh.lab, actor: typeof fresh.admin, input: I, key?: string) => Promise<R>,
  input: I,
) {
  const key = randomUUID();
  const send = () => act(fresh.lab, fresh.admin, input, key);
  const answers = await Promise.all([send(), send(), send()]);
  return { key, answers: [...answers, await send()] };
}

describe('one press that is sent several times', () => {
  let supplierId: number;
  beforeAll(async () => {
    const lot = (await fresh.lab.store.lots.one({ id: lotId }))!;
    supplierId = lot.supplierId;
    await take(7, logOf(97, 41));
  });

  it('makes one report', async () => {
    const { answers } = await sent(issueReport, {
      lotId,
      cellIds: [ids[0]!, ids[1]!],
      customer: 'Tidewright Buoys',
    });
    expect(new Set(answers.map(({ number }) => number)).size).toBe(1);
    expect(await reports()).toBe(1);
    expect(answers[3]!.createdAt).toBeInstanceOf(Date);
    expect(await fresh.lab.store.auditEntries.count({ act: 'issued report' })).toBe(1);
  });

  it('makes one dispute, one letter, one file', async () => {
    const open = await sent(openDispute, {
      lotId,
      remedy: 'partialRefund' as const,
      ask: 10,
      ground: 'its freight',
      language: 'en' as const,
    });
    expect(new Set(open.answers.map((answer) => JSON.stringify(answer))).size).toBe(1);
    const { disputes } = await lotDisputes(fresh.lab, fresh.admin, { lotId });
    expect(disputes).toHaveLength(1);
    const disputeId = disputes[0]!.dispute.id;
    await sent(draftLetter, { disputeId });
    await sent(issueDisputeFile, { disputeId });
    const { disputing } = fresh.lab.store;
    expect(await disputing.letters.count({ disputeId })).toBe(1);
    expect(await disputing.files.count({ disputeId })).toBe(1);
  });

  it('makes one lot from before, and one note', async () => {
    await sent(addEarlierLot, {
      supplierId,
      title: 'Before',
      model: 'Sedge P104',
      chemistry: 'LFP' as const,
      arrivedOn: '2025-03-02',
      cells: 100,
      judged: 40,
      met: 30,
      claimedKwh: 33.3,
      goodKwh: 28,
      landed: 4000,
    } as never);
    await sent(addSupplierNote, {
      supplierId,
      isHearsay: false,
      text: 'Late again',
      source: '',
    } as never);
    const { earlierLots, notes } = fresh.lab.store.supplying;
    expect(await earlierLots.count({ supplierId })).toBe(1);
    expect(await notes.count({ supplierId })).toBe(1);
  });

  it('of two presses each is done', async () => {
    const input = { lotId, cellIds: [ids[2]!], customer: 'Tidewright Buoys' };
    const before = await reports();
    await issueReport(fresh.lab, fresh.admin, input, randomUUID());
    await issueReport(fresh.lab, fresh.admin, input, randomUUID());
    expect(await reports()).toBe(before + 2);
  });

  it('with something else in it, or by somebody else, it is refused and says why', async () => {
    const input = { lotId, cellIds: [ids[3]!], customer: 'Tidewright Buoys' };
    const key = randomUUID();
    await issueReport(fresh.lab, fresh.admin, input, key);
    const other = await failure(
      issueReport(fresh.lab, fresh.admin, { ...input, customer: 'Another' }, key),
    );
    expect(other.message).toContain('stored already');
    const name = 'Bo Second';
    const view = await addPersonWithPassword(fresh.lab, fresh.admin, {
      name,
      email: 'bo@lab.example',
      role: 'lead',
      password: 'quite a long password',
    } as never);
    const bo = { id: view.id, name, role: 'lead' as const };
    expect((await failure(issueReport(fresh.lab, bo, input, key))).code).toBe('conflict');
    expect((await failure(issueReport(fresh.lab, fresh.admin, input, 'x'))).code).toBe('invalid');
  });

  it('that was refused may be sent again, mended', async () => {
    const key = randomUUID();
    const input = { lotId, cellIds: [ids[19]!], customer: 'Tidewright Buoys' };
    await failure(issueReport(fresh.lab, fresh.admin, input, key));
    expect(await sentAct(fresh.lab, fresh.admin, key)).toEqual({ state: 'none' });
    const made = await issueReport(fresh.lab, fresh.admin, { ...input, cellIds: [ids[3]!] }, key);
    expect(made.number).toMatch(/^R-/);
  });
});

describe('an answer that was lost', () => {
  it('is looked up, by who sent it only', async () => {
    const key = randomUUID();
    const input = { lotId, cellIds: [ids[4]!], customer: 'Tidewright Buoys' };
    const made = await issueReport(fresh.lab, fresh.admin, input, key);
    expect(await sentAct(fresh.lab, fresh.admin, key)).toMatchObject({
      state: 'done',
      result: { number: made.number },
    });
    const another = { ...fresh.admin, id: fresh.admin.id + 1 };
    expect(await sentAct(fresh.lab, another, key)).toEqual({ state: 'none' });
  });

  it('of an act under way is told so here, and waited for in another process', async () => {
    const key = randomUUID();
    const input = { lotId, cellIds: [ids[5]!], customer: 'Tidewright Buoys' };
    const work = issueReport(fresh.lab, fresh.admin, input, key);
    expect(await sentAct(fresh.lab, fresh.admin, key)).toEqual({ state: 'underWay' });
    const { number } = await work;
    const beside = anotherProcess(fresh.url);
    try {
      expect(await sentAct(beside, fresh.admin, key)).toMatchObject({ result: { number } });
    } finally {
      await beside.store.close();
      await beside.compute.close();
    }
  });

  it('of what is shown only once is not kept anywhere', async () => {
    const key = randomUUID();
    const input = { name: 'bench', scopes: ['bench' as const] };
    await makeToken(fresh.lab, fresh.admin, input as never, key);
    const again = await failure(makeToken(fresh.lab, fresh.admin, input as never, key));
    expect(again.message).toContain('shown only once');
    const row = (await fresh.lab.store.doneActs.one({ id: key }))!;
    expect(row.result).toBeNull();
  });
});

describe('a report and a hold at the same time', () => {
  it('waits for who holds the lot, and then looks at what is held', async () => {
    const cellId = ids[6]!;
    const runId = await take(6, logOf(104, 51));
    const before = await reports();
    let work: Promise<unknown> | null = null;
    // Somebody sets the result aside; before that is stored another asks for the report.
    await fresh.lab.store.transaction(async (transaction) => {
      const within = { ...fresh.lab, store: fresh.lab.store.within(transaction) };
      await setAside(within, fresh.admin, { runId, readingId: null, reason: 'spoilt' });
      work = issueReport(fresh.lab, fresh.admin, { lotId, cellIds: [cellId], customer: 'X' });
      work.catch(() => undefined);
      await new Promise((resolve) => setTimeout(resolve, 400));
      expect(await Promise.race([work, 'waits'])).toBe('waits');
    });
    expect((await failure(work!)).message).toMatch(/Held results are not reported: .* \(spoilt\)/);
    expect(await reports()).toBe(before);
  });

  it('its PDF keeps nobody waiting, and one that failed is made again', async () => {
    const { compute } = fresh.lab;
    const render = compute.renderReport.bind(compute);
    let go = () => {};
    const started = new Promise<void>((begun) => {
      compute.renderReport = async () => {
        begun();
        await new Promise<void>((resolve) => (go = resolve));
        throw new Error('The worker died.');
      };
    });
    const input = { lotId, cellIds: [ids[0]!], customer: 'Tidewright Buoys' };
    const work = issueReport(fresh.lab, fresh.admin, input);
    await started;
    // While it is being set the report is there, and the lot is free.
    const [view] = await listReports(fresh.lab, fresh.admin, { lotId });
    await take(8, logOf(105, 61));
    go();
    const { number } = await work;
    expect(view!.number).toBe(number);
    compute.renderReport = render;
    expect((await reportPage(fresh.lab, fresh.admin, { number })).sha256).toBe(view!.sha256);
    const [pdf, same] = await Promise.all([
      reportPdf(fresh.lab, fresh.admin, { number }),
      reportPdf(fresh.lab, fresh.admin, { number }),
    ]);
    expect(pdf.subarray(0, 5).toString()).toBe('%PDF-');
    expect(same.equals(pdf)).toBe(true);
    expect((await reportPdf(fresh.lab, fresh.admin, { number })).equals(pdf)).toBe(true);
    expect(await fresh.lab.store.reportPdfs.count({})).toBe(await reports());
  });
});
