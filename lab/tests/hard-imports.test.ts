import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { decodeColumns, readLog } from '@dusk-tally/core/evidence';
import { recordDischarge, rowsAsCsv, typicalCell } from '@dusk-tally/core/simulator';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { changeClaim } from '../src/arrivals';
import { addInstrument, blocksOfRun, importLog, recordReadings } from '../src/evidence';
import { cellPage, figureTrail, lotCells, lotVerdict } from '../src/verdicts';
import { claimedLot, type FreshLab, freshLab } from '../testing/fresh-lab';
import { failure } from '../testing/failure';

const sample = (name: string) =>
  new Uint8Array(readFileSync(join(import.meta.dirname, '../../core/fixtures/samples', name)));

describe('logs that are not plain', () => {
  let fresh: FreshLab;
  let lotId: number;
  let code: string;
  let ids: number[];
  const take = (cell: number, name: string, more: Partial<Parameters<typeof importLog>[2]> = {}) =>
    importLog(fresh.lab, fresh.admin, {
      lotId,
      cellId: ids[cell]!,
      fileName: name,
      ...more,
      bytes: more.bytes ?? sample(name),
    });
  const line = async (cell: number) =>
    (await lotCells(fresh.lab, fresh.admin, { lotId })).find((entry) => entry.id === ids[cell])!;

  beforeAll(async () => {
    fresh = await freshLab();
    const lot = await claimedLot(fresh, 12);
    lotId = lot.id;
    code = lot.code;
    ids = (await lotCells(fresh.lab, fresh.admin, { lotId })).map((cell) => cell.id);
  });
  afterAll(() => fresh.close());

  it('keeps every logged digit, whatever the dialect', async () => {
    for (const [cell, name] of [
      '02-quantity-slash-unit.csv',
      '06-milli-units.tsv',
      '12-utf16.tsv',
      '10-multi-cell-charge.csv',
    ].entries()) {
      const { runId } = await take(cell, name);
      const stored = decodeColumns(await blocksOfRun(fresh.lab, runId));
      const { trace } = readLog(sample(name));
      expect(stored.get('timeS')).toEqual(trace.timeS);
      expect(stored.get('voltageV')).toEqual(trace.voltageV);
      trace.cellVoltagesV.forEach((values, i) =>
        expect(stored.get(`cell${i + 1}V`)).toEqual(values),
      );
    }
  });

  it('a string’s charge has no capacity, but its leader shares', async () => {
    const page = await cellPage(fresh.lab, fresh.admin, { number: (await line(3)).number });
    expect(page.runs[0]!.figures).toEqual([]);
    expect(page.runs[0]!.summary.leaderShare![4]).toBeGreaterThan(0.95);
    expect((await line(3)).capacityAh).toBeNull();
  });

  it('two-wire leads make a finished test a lower bound, and are named in the trail', async () => {
    const { bound } = await take(4, '17-no-sense-leads.csv', { leadMohm: 3.749 });
    expect(bound).toBe('atLeast');
    const { capacityRawFigureId, capacityRawAh, capacityAh, verdict } = await line(4);
    expect(verdict).toBe('tooClose');
    const trail = await figureTrail(fresh.lab, fresh.admin, { id: capacityRawFigureId! });
    expect(trail.figure.value).toBe(capacityRawAh);
    expect(capacityAh).not.toBe(capacityRawAh);
    expect(trail.figure.steps.join(' ')).toContain('3.749 mΩ of leads');
    expect(trail.figure.inputs).toContainEqual({
      name: 'lead resistance',
      value: 3.749,
      unit: 'mΩ',
    });
  });

  it('another rate than claimed is carried over, and both results are shown', async () => {
    const rows = recordDischarge(typicalCell('LFP', 106), {
      currentA: 52,
      cutoffV: 2.5,
      intervalS: 10,
      restBeforeS: 3600,
      restAfterS: 0,
      ambientC: 24,
      seed: 4,
    });
    await take(9, 'half.csv', { bytes: new TextEncoder().encode(rowsAsCsv(rows)) });
    const carried = await line(9);
    expect(carried.comparable).toBe(true);
    expect(carried.corrections.map(({ kind }) => kind)).toContain('rate');
    const factor = carried.corrections.reduce((product, by) => product * by.factor, 1);
    expect(carried.capacityAh).toBeCloseTo(carried.capacityRawAh! * factor, 9);
    const trail = await figureTrail(fresh.lab, fresh.admin, { id: carried.capacityFigureId! });
    expect(trail.figure.quantity).toBe('capacityAtClaim');
    expect(trail.figure.value).toBe(carried.capacityAh);
    expect(trail.figure.budget.map(({ name }) => name)).toEqual(
      expect.arrayContaining(['rate', 'current gain']),
    );
    expect(trail.figure.steps.join(' ')).toContain('with k = 1.030');
  });

  it('a rate too far from the claimed one gets no verdict and is left out of the lot’s statistics', async () => {
    const rows = recordDischarge(typicalCell('LFP', 106), {
      currentA: 90,
      cutoffV: 2.5,
      intervalS: 10,
      restBeforeS: 3600,
      restAfterS: 0,
      ambientC: 24,
      seed: 3,
    });
    await take(5, 'fast.csv', { bytes: new TextEncoder().encode(rowsAsCsv(rows)) });
    const fast = await line(5);
    expect(fast).toMatchObject({
      comparable: false,
      verdict: null,
      stateOfHealth: null,
      grade: null,
    });
    expect(fast.differences[0]).toContain(
      'claimed at 0.2 It: a capacity is carried over a factor of',
    );
    const { capacity } = await lotVerdict(fresh.lab, fresh.admin, { code });
    expect(capacity!.notComparable).toBeGreaterThanOrEqual(1);
  });

  it('a better described tester narrows the uncertainty', async () => {
    const tester = await addInstrument(fresh.lab, fresh.admin, {
      kind: 'tester',
      name: 'Good tester',
      calibratedOn: '2026-01-10',
      dueOn: '2027-01-10',
      accuracy: {
        currentGainPct: 0.05,
        currentOffsetA: 0.001,
        voltageGainPct: 0.02,
        voltageOffsetV: 0.001,
        timePpm: 20,
      },
    });
    const log = new TextEncoder().encode(
      new TextDecoder().decode(sample('02-quantity-slash-unit.csv')).replace('3.5010', '3.5011'),
    );
    await take(6, 'again.csv', { bytes: log, instrumentId: tester.id });
    const [wide, narrow] = [await line(0), await line(6)];
    expect(narrow.capacityAh).toBeCloseTo(wide.capacityAh!, 3);
    expect(narrow.capacityU!).toBeLessThan(wide.capacityU! / 4);
    const trail = await figureTrail(fresh.lab, fresh.admin, { id: narrow.capacityFigureId! });
    expect(trail.instrument).toMatchObject({ name: 'Good tester', dueOn: '2027-01-10' });
  });

  it('a typed capacity counts until a log is there', async () => {
    const reading = (value: number | null, n: number) =>
      recordReadings(fresh.lab, fresh.admin, {
        lotId,
        readings: [
          {
            cellId: ids[7]!,
            kind: 'capacity',
            value,
            decimals: 1,
            temperatureC: 25,
            clientKey: `00000000-0000-4000-9000-${String(n).padStart(12, '0')}`,
          },
          {
            cellId: ids[7]!,
            kind: 'currentShown',
            value: 20.8,
            decimals: 1,
            clientKey: `00000000-0000-4000-9100-${String(n).padStart(12, '0')}`,
          },
        ],
      });
    await reading(101.5, 1);
    expect(await line(7)).toMatchObject({
      capacityAh: 101.5,
      verdict: 'notMet',
      differences: [expect.stringContaining('Typed in')],
    });
    await reading(null, 2);
    expect((await line(7)).capacityAh).toBeNull();
    await reading(104.5, 3);
    const again = new TextEncoder().encode(
      new TextDecoder().decode(sample('02-quantity-slash-unit.csv')).replace('3.5010', '3.5012'),
    );
    await take(7, 'later.csv', { bytes: again });
    expect((await line(7)).capacityAh).toBeCloseTo(105.71, 1);
  });

  it('a bound does not push aside an exact result; both stay', async () => {
    const shorter = new TextDecoder()
      .decode(sample('14-stopped-early.csv'))
      .split('\n')
      .slice(0, 900)
      .join('\n');
    await take(0, 'second.csv', { bytes: new TextEncoder().encode(shorter) });
    const page = await cellPage(fresh.lab, fresh.admin, { number: (await line(0)).number });
    expect(page.runs).toHaveLength(2);
    expect(page.line.bound).toBe('exact');
    expect(page.runs[0]!.figures.find(({ quantity }) => quantity === 'capacity')!.bound).toBe(
      'atLeast',
    );
    expect(page.runs[1]!.figures.some((figure) => figure.quantity === 'capacity')).toBe(true);
  });

  it('refuses files that are empty, too large or for another lot’s cell, and stores nothing of them', async () => {
    const before = await fresh.lab.store.runs.count({});
    const { lab, admin } = fresh;
    const bytes = sample('91-empty.csv');
    expect(
      (await failure(importLog(lab, admin, { lotId, cellId: ids[8]!, fileName: 'e.csv', bytes })))
        .message,
    ).toMatch(/^e\.csv: The file is empty/);
    expect(
      (
        await failure(
          importLog(lab, admin, {
            lotId,
            cellId: ids[8]!,
            fileName: 'big.csv',
            bytes: new Uint8Array(49 * 1024 * 1024),
          }),
        )
      ).message,
    ).toMatch(/at most 48 MB in one piece/);
    expect(
      (await failure(importLog(lab, admin, { lotId, cellId: ids[8]!, fileName: 'no.csv' })))
        .message,
    ).toMatch(/as bytes or as a file/);
    expect(
      (
        await failure(
          importLog(lab, admin, {
            lotId,
            cellId: 424242,
            fileName: 'x.csv',
            bytes: sample('03-semicolon-decimal-comma.csv'),
          }),
        )
      ).code,
    ).toBe('notFound');
    expect(
      (
        await failure(
          importLog(lab, admin, {
            lotId,
            cellId: ids[8]!,
            instrumentId: 999,
            fileName: 'x.csv',
            bytes: sample('04-iso-clock.csv'),
          }),
        )
      ).code,
    ).toBe('notFound');
    expect(await fresh.lab.store.runs.count({})).toBe(before);
    expect(await fresh.lab.store.logFiles.count({ name: 'x.csv' })).toBe(0);
  });

  it('recomputing under the same claim gives the same bits', async () => {
    const capacities = async () =>
      (await lotCells(fresh.lab, fresh.admin, { lotId })).map((cell) => [
        cell.capacityAh,
        cell.capacityU,
      ]);
    const before = await capacities();
    const claim = (cutoffV: number) => [
      { kind: 'capacity' as const, value: 104, conditions: { rateIt: 0.2, cutoffV } },
      { kind: 'acResistance' as const, value: 0.5 },
    ];
    await changeClaim(fresh.lab, fresh.admin, { lotId, version: 1, claim: claim(2.7) });
    expect(await capacities()).not.toEqual(before);
    await changeClaim(fresh.lab, fresh.admin, { lotId, version: 2, claim: claim(2.5) });
    expect(await capacities()).toEqual(before);
  });
});
