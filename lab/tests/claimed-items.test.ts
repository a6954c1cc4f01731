import { recordCharge, recordDischarge, rowsAsCsv, typicalCell } from '@dusk-tally/core/simulator';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { changeClaim, makeGood, recordInspection, recordReceiving } from '../src/arrivals';
import { importLog, recordReadings } from '../src/evidence';
import { cellPage, lotCells, lotVerdict } from '../src/verdicts';
import { claimedLot, type FreshLab, freshLab } from '../testing/fresh-lab';

const CELLS = 6;
const CLAIM = [
  { kind: 'capacity' as const, value: 104, conditions: { rateIt: 0.2, cutoffV: 2.5 } },
  { kind: 'acResistance' as const, value: 0.5, conditions: {} },
  { kind: 'dcResistance' as const, value: 5, conditions: { pulseS: 10 } },
  { kind: 'maxCharge' as const, value: 52, conditions: {} },
  { kind: 'maxDischarge' as const, value: 20.8, conditions: {} },
  { kind: 'grade' as const, text: 'A', conditions: {} },
  { kind: 'condition' as const, text: 'new', conditions: {} },
  { kind: 'producedAfter' as const, text: '2026-01-01', conditions: {} },
  { kind: 'mass' as const, value: 1950, conditions: { tolerancePct: 1 } },
  { kind: 'size' as const, text: '130 mm × 36 mm × 195 mm', conditions: {} },
  { kind: 'quantity' as const, value: CELLS, conditions: {} },
  { kind: 'disputeWindow' as const, value: 14, conditions: {} },
];

describe('everything a supplier claimed', () => {
  let fresh: FreshLab;
  let lotId: number;
  let code: string;
  let ids: number[];
  let numbers: string[];
  let key = 0;
  const clientKey = () => `00000000-0000-4000-b000-${String(++key).padStart(12, '0')}`;
  const verdict = () => lotVerdict(fresh.lab, fresh.admin, { code });
  const item = async (kind: (typeof CLAIM)[number]['kind']) =>
    (await verdict()).items.find((one) => one.kind === kind)!;
  const ofCell = async (cell: number, kind: string) =>
    (await cellPage(fresh.lab, fresh.admin, { number: numbers[cell]! })).items.find(
      ({ assessed }) => assessed.item === kind,
    )!.assessed;
  const change = async (claim: object[]) =>
    changeClaim(fresh.lab, fresh.admin, {
      lotId,
      version: (await fresh.lab.store.lots.one({ id: lotId }))!.version,
      claim: claim as never,
    });
  const take = (cell: number, rows: Parameters<typeof rowsAsCsv>[0], fileName: string) =>
    importLog(fresh.lab, fresh.admin, {
      lotId,
      cellId: ids[cell]!,
      fileName,
      bytes: new TextEncoder().encode(rowsAsCsv(rows)),
    });

  beforeAll(async () => {
    fresh = await freshLab();
    const lot = await claimedLot(fresh, CELLS);
    ({ id: lotId, code } = lot);
    const lines = await lotCells(fresh.lab, fresh.admin, { lotId });
    ids = lines.map(({ id }) => id);
    numbers = lines.map(({ number }) => number);
    await change(CLAIM);
    await fresh.lab.store.lots.update({ arrivedOn: '2026-09-01' }, { id: lotId });
  });
  afterAll(() => fresh.close());

  it('is told of every cell before anything is measured: what it waits for', async () => {
    const { items, sentence } = await verdict();
    expect(items.map(({ kind }) => kind)).toEqual(CLAIM.map(({ kind }) => kind));
    for (const one of items)
      if (one.kind !== 'quantity' && one.kind !== 'disputeWindow')
        expect(one.counts, one.kind).toEqual({ waitingFor: CELLS });
    expect(sentence).toContain('Nothing of the 6 cells is measured yet');
    expect((await item('quantity')).lot).toMatchObject({ state: 'met' });
    expect((await item('disputeWindow')).lot).toMatchObject({ on: '2026-09-15' });
  });

  it('mass by the box, then by the cell’s own weight', async () => {
    await recordReceiving(fresh.lab, fresh.admin, {
      lotId,
      clientKey: clientKey(),
      entries: [
        { field: 'grossG', value: 12_300 },
        { field: 'tareG', value: 600 },
      ],
    });
    const boxed = await item('mass');
    // One weighing, however many cells: every cell is told by it, and no statistic is made of it.
    expect(boxed).toMatchObject({
      claimed: '1950 g ± 1 %',
      counts: {},
      lot: { state: 'met' },
      summary: { n: 0, shareShort: null },
    });
    expect(boxed.lot!.text).toBe(
      'By the box, net over count: 1950 g each; 6 cells were not weighed.',
    );
    expect(await ofCell(0, 'mass')).toMatchObject({
      state: 'met',
      differences: ['By the box, net over count: this cell may differ.'],
    });
    await recordReadings(fresh.lab, fresh.admin, {
      lotId,
      readings: [
        { cellId: ids[1]!, kind: 'mass', value: 1900, decimals: 0, clientKey: clientKey() },
        { cellId: ids[1]!, kind: 'thickness', value: 37.6, decimals: 1, clientKey: clientKey() },
      ],
    });
    expect(await item('mass')).toMatchObject({ counts: { notMet: 1 }, summary: { n: 1 } });
    expect((await item('size')).counts).toEqual({ waitingFor: CELLS - 1, notMet: 1 });
    const line = (await lotCells(fresh.lab, fresh.admin, { lotId }))[1]!;
    expect(line.against).toEqual(['mass', 'size']);
  });

  it('grade and condition are contradicted by what was found, made good or not', async () => {
    await recordInspection(fresh.lab, fresh.admin, {
      lotId,
      clientKey: clientKey(),
      marks: [
        { act: 'finding', cellIds: [ids[2]!], code: 'weld', note: null },
        { act: 'clearRest', except: [] },
      ],
    });
    const grade = await item('grade');
    expect(grade.counts).toEqual({ contradicted: 1, nothingAgainst: CELLS - 1 });
    expect(grade.why).toEqual([{ state: 'contradicted', text: 'weld remains', count: 1 }]);
    expect((await item('condition')).counts).toMatchObject({ contradicted: 1 });
    expect((await verdict()).sentence).toBe(
      'This lot does not hold what was claimed for every cell. Grade is not as claimed for 1; condition is not as claimed for 1; mass is not as claimed for 1; size is not as claimed for 1.',
    );
    const [finding] = await fresh.lab.store.arrivals.inspections.find({ cellId: ids[2]! });
    await makeGood(fresh.lab, fresh.admin, {
      findingId: finding!.id,
      before: 'a burr at the tab',
      done: 'burr removed',
    });
    // Made good lets it on the bench; that it was worked on stays true.
    expect((await item('grade')).counts).toMatchObject({ contradicted: 1 });
  });

  it('currents and resistances by the runs that had them', async () => {
    const cell = typicalCell('LFP', 108);
    await take(
      0,
      recordCharge(cell, {
        currentA: 54,
        chargeV: 3.65,
        taperA: 5,
        intervalS: 20,
        restBeforeS: 60,
        ambientC: 24,
        seed: 1,
        from: 0.01,
      }),
      'charge.csv',
    );
    await take(
      0,
      recordDischarge(cell, {
        currentA: 20.8,
        cutoffV: 2.5,
        intervalS: 1,
        restBeforeS: 3700,
        restAfterS: 60,
        ambientC: 24,
        seed: 2,
      }),
      'discharge.csv',
    );
    expect(await ofCell(0, 'capacity')).toMatchObject({ state: 'met' });
    expect(await ofCell(0, 'maxCharge')).toMatchObject({ state: 'met' });
    expect((await ofCell(0, 'maxCharge')).differences.join(' ')).toMatch(
      /took \d+ % of its capacity at constant current/,
    );
    expect(await ofCell(0, 'maxDischarge')).toMatchObject({ state: 'met', probability: 1 });
    expect(await ofCell(0, 'dcResistance')).toMatchObject({ state: 'met', limits: { high: 5 } });
    expect(await ofCell(3, 'maxCharge')).toMatchObject({
      state: 'waitingFor',
      what: ['a charge at 52 A'],
    });
  });

  it('a claim that changes is judged anew; what is no longer claimed is no longer told', async () => {
    await change([
      { kind: 'capacity', value: 104, conditions: { cutoffV: 2.5, statedAs: 'typical' } },
      { kind: 'dcResistance', value: 5, conditions: { pulseS: 1, stepIt: '0.2 / 1' } },
    ]);
    const { items, sentence } = await verdict();
    // What the model's sheet says stays in effect beside the supplier's own claim.
    expect(items.map(({ kind }) => kind)).toEqual(['capacity', 'dcResistance', 'size']);
    expect(items[0]).toMatchObject({
      claimed: 'typically 104 Ah',
      counts: { described: 1, waitingFor: CELLS - 1 },
      lot: { state: 'waitingFor' },
    });
    expect(items[1]!.counts).toMatchObject({ notComparable: 1 });
    expect(sentence).toBe(
      'This lot does not hold what was claimed for every cell. Size is not as claimed for 1.',
    );
    const rows = await fresh.lab.store.verdicts.assessments.find({ lotId, item: 'mass' });
    expect(rows).toEqual([]);
  });
});
