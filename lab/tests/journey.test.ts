import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { changeClaim } from '../src/arrivals';
import { checkRun, importLog, recordReadings, traceOfRun } from '../src/evidence';
import { issueReport, reportPage, reportPdf } from '../src/reports';
import { verifyAudit } from '../src/shared';
import {
  cellPage,
  figureTrail,
  lotCells,
  lotCurves,
  lotHead,
  lotVerdict,
  runPage,
} from '../src/verdicts';
import { today } from '../src/today';
import { claimedLot, type FreshLab, freshLab } from '../testing/fresh-lab';
import { failure } from '../testing/failure';

const sample = (name: string) =>
  new Uint8Array(readFileSync(join(import.meta.dirname, '../../core/fixtures/samples', name)));
const key = (n: number) => `00000000-0000-4000-8000-${String(n).padStart(12, '0')}`;

describe('from claim to report', () => {
  let fresh: FreshLab;
  let lot: Awaited<ReturnType<typeof claimedLot>>;
  let cells: Awaited<ReturnType<typeof lotCells>>;
  const take = (cell: number, name: string) =>
    importLog(fresh.lab, fresh.admin, {
      lotId: lot.id,
      cellId: cells[cell]!.id,
      fileName: name,
      bytes: sample(name),
    });

  beforeAll(async () => {
    fresh = await freshLab();
    lot = await claimedLot(fresh, 5);
    cells = await lotCells(fresh.lab, fresh.admin, { lotId: lot.id });
  });
  afterAll(() => fresh.close());

  it('numbers the cells in the lab’s own series', () => {
    expect(cells.map((cell) => cell.number)).toEqual([
      'B-0001',
      'B-0002',
      'B-0003',
      'B-0004',
      'B-0005',
    ]);
    expect(
      cells.every((cell) => cell.grade === null && cell.waitingFor.includes('a capacity test')),
    ).toBe(true);
  });

  it('takes in logs: one decides, one is at least, one is refused and leaves nothing', async () => {
    expect(await take(0, '02-quantity-slash-unit.csv')).toMatchObject({
      cell: 'B-0001',
      rows: 1916,
      bound: 'exact',
    });
    expect(await take(1, '14-stopped-early.csv')).toMatchObject({ bound: 'atLeast' });
    const files = await fresh.lab.store.logFiles.count({});
    const refused = await failure(take(2, '93-binary.csv'));
    expect(refused).toMatchObject({
      code: 'invalid',
      message: expect.stringMatching(/93-binary.csv: Row 1 is not text.*Nothing of it was stored/),
    });
    expect(await fresh.lab.store.logFiles.count({})).toBe(files);
  });

  it('refuses the same file again, with a link to the first', async () => {
    const again = await failure(take(2, '02-quantity-slash-unit.csv'));
    expect(again).toMatchObject({ code: 'duplicate', details: { link: '/cells/B-0001' } });
    const [first, second] = await Promise.allSettled([
      take(2, '05-elapsed-over-24h.csv'),
      take(3, '05-elapsed-over-24h.csv'),
    ]);
    expect([first!.status, second!.status].sort()).toEqual(['fulfilled', 'rejected']);
  });

  it('takes readings once, however often they are sent', async () => {
    const batch = {
      lotId: lot.id,
      readings: [0.43, 0.45, 0.62].map((value, i) => ({
        cellId: cells[i]!.id,
        kind: 'acResistance' as const,
        value,
        decimals: 2,
        clientKey: key(i),
      })),
    };
    expect(await recordReadings(fresh.lab, fresh.admin, batch)).toEqual({ stored: 3 });
    expect(await recordReadings(fresh.lab, fresh.admin, batch)).toEqual({ stored: 0 });
    const alien = await failure(
      recordReadings(fresh.lab, fresh.admin, {
        lotId: lot.id,
        readings: [
          { cellId: 99999, kind: 'acResistance', value: 1, decimals: 0, clientKey: key(50) },
        ],
      }),
    );
    expect(alien.code).toBe('notFound');
  });

  it('judges, grades and sums up', async () => {
    const lines = await lotCells(fresh.lab, fresh.admin, { lotId: lot.id });
    expect(lines[0]).toMatchObject({
      verdict: 'met',
      acVerdict: 'met',
      grade: 'Second',
      waitingFor: ['the self-discharge check', 'the inspection'],
    });
    expect(lines[1]).toMatchObject({ verdict: 'tooClose', bound: 'atLeast', grade: 'Utility' });
    expect(lines[2]!.acVerdict).toBe('notMet');
    const verdict = await lotVerdict(fresh.lab, fresh.admin, { code: lot.code });
    expect(verdict.sentence).toMatch(
      /does not hold what was claimed for every cell.*AC resistance: 1 of 3 misses/,
    );
    const { items } = await today(fresh.lab, fresh.admin, {});
    expect(items.map((item) => item.kind)).toContain('atLeast');
    const head = await lotHead(fresh.lab, fresh.admin, { code: lot.code });
    expect(head.strokes[0]).toMatchObject({ mark: 'met' });
    expect(head.strokes[1]!.mark).toBe('atLeast');
  });

  it('shows every figure with its trail, down to the samples', async () => {
    const page = await cellPage(fresh.lab, fresh.admin, { number: 'B-0001' });
    expect(page.runs[0]!.figures.map((figure) => figure.quantity)).toEqual(
      expect.arrayContaining(['capacity', 'energy', 'meanVoltage']),
    );
    const capacity = page.runs[0]!.figures.find((figure) => figure.quantity === 'capacity')!;
    const trail = await figureTrail(fresh.lab, fresh.admin, { id: capacity.id });
    expect(trail.figure.value).toBeCloseTo(105.685, 2);
    expect(trail.figure.budget.length).toBeGreaterThan(3);
    expect(trail.file!.sha256).toBe(
      createHash('sha256').update(sample(trail.file!.name)).digest('hex'),
    );
    const bytes = await traceOfRun(fresh.lab, fresh.admin, {
      runId: page.runs[0]!.id,
      points: 300,
    });
    expect(bytes.length).toBeGreaterThan(1000);
    const page2 = await runPage(fresh.lab, fresh.admin, { id: page.runs[0]!.id });
    expect(page2.figures.length).toBeGreaterThan(2);
    expect(page2.cell.number).toBe('B-0001');
    // Computed again from the stored trace: the same bits.
    const check = await checkRun(fresh.lab, fresh.admin, { id: page.runs[0]!.id });
    expect(check.every((line) => line.same)).toBe(true);
    expect(check.length).toBeGreaterThan(2);
    expect((await lotCurves(fresh.lab, fresh.admin, { lotId: lot.id })).cells).toHaveLength(3);
  });

  it('computes again when the claim’s cut-off changes, and keeps two editors apart', async () => {
    const claim = [
      { kind: 'capacity' as const, value: 104, conditions: { rateIt: 0.2, cutoffV: 2.8 } },
    ];
    await changeClaim(fresh.lab, fresh.admin, { lotId: lot.id, version: 1, claim });
    const [line] = await lotCells(fresh.lab, fresh.admin, { lotId: lot.id });
    expect(line!.capacityRawAh).toBeCloseTo(104.447, 2);
    expect(line!.capacityAh).toBeGreaterThan(line!.capacityRawAh!);
    const late = await failure(
      changeClaim(fresh.lab, fresh.admin, { lotId: lot.id, version: 1, claim: [] }),
    );
    expect(late).toMatchObject({
      code: 'conflict',
      details: { current: { version: 2, claim: [{ kind: 'capacity', value: 104 }] } },
    });
    await changeClaim(fresh.lab, fresh.admin, {
      lotId: lot.id,
      version: 2,
      claim: [
        { kind: 'capacity', value: 104, conditions: { rateIt: 0.2, cutoffV: 2.5 } },
        { kind: 'acResistance', value: 0.5 },
      ],
    });
    expect(
      (await lotCells(fresh.lab, fresh.admin, { lotId: lot.id }))[0]!.capacityRawAh,
    ).toBeCloseTo(105.685, 2);
  });

  it('issues a report from a frozen snapshot', async () => {
    const report = await issueReport(fresh.lab, fresh.admin, {
      lotId: lot.id,
      cellIds: [cells[0]!.id, cells[1]!.id],
      customer: 'Tidewright Buoys',
    });
    expect(report.number).toMatch(/^R-\d{4}-0001$/);
    const pdf = await reportPdf(fresh.lab, fresh.admin, { number: report.number });
    expect(pdf.subarray(0, 5).toString()).toBe('%PDF-');
    const before = (await reportPage(fresh.lab, fresh.admin, { number: report.number })).snapshot;
    await recordReadings(fresh.lab, fresh.admin, {
      lotId: lot.id,
      readings: [
        { cellId: cells[0]!.id, kind: 'acResistance', value: 0.9, decimals: 2, clientKey: key(77) },
      ],
    });
    const after = await reportPage(fresh.lab, fresh.admin, { number: report.number });
    expect(after.snapshot).toEqual(before);
    expect(after.snapshot.items[0]!.acResistance!.value).toBe(0.43);
    const nothing = await failure(
      issueReport(fresh.lab, fresh.admin, {
        lotId: lot.id,
        cellIds: [cells[4]!.id],
        customer: 'X',
      }),
    );
    expect(nothing.message).toMatch(/None of these cells has a figure/);
  });

  it('keeps an unbroken audit chain that the database does not let anyone change', async () => {
    expect(await verifyAudit(fresh.lab)).toBeNull();
    const acts = (await fresh.lab.store.auditEntries.find({})).map((entry) => entry.act);
    expect(acts).toEqual(
      expect.arrayContaining([
        'signed in',
        'added supplier',
        'added lot',
        'took in log',
        'typed readings',
        'changed claim',
        'issued report',
      ]),
    );
    await expect(fresh.lab.store.auditEntries.update({ act: 'x' }, { id: 1 })).rejects.toThrow(
      /append-only/,
    );
    await expect(fresh.lab.store.readings.remove({ id: 1 })).rejects.toThrow(/append-only/);
  });
});
