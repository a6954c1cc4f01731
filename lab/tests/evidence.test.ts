import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { recordDischarge, rowsAsCsv, typicalCell } from '@dusk-tally/core/simulator';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import {
  addChannel,
  addInstrument,
  checkRun,
  importLog,
  recordReadings,
  recordRetightened,
  runWindow,
} from '../src/evidence';
import { cellPage, lotCells, lotDerivatives, lotVerdict, rateSets, runPage } from '../src/verdicts';
import { failure } from '../testing/failure';
import { claimedLot, type FreshLab, freshLab } from '../testing/fresh-lab';

describe('figures that can be defended', () => {
  let fresh: FreshLab;
  let lotId: number;
  let code: string;
  let cells: Awaited<ReturnType<typeof lotCells>>;
  const folder = mkdtempSync(join(tmpdir(), 'dusk-logs-'));

  interface Run {
    capacityAh?: number;
    currentA?: number;
    cutoffV?: number;
    leadMohm?: number;
    seed: number;
  }
  const log = ({ capacityAh = 105, currentA = 20.8, cutoffV = 2.5, leadMohm = 0, seed }: Run) =>
    new TextEncoder().encode(
      rowsAsCsv(
        recordDischarge(
          { ...typicalCell('LFP', 104), capacityAh },
          {
            currentA,
            cutoffV,
            intervalS: 1,
            restBeforeS: 3600,
            restAfterS: 300,
            ambientC: 24,
            seed,
            channel: { leadMohm },
          },
        ),
      ),
    );
  const take = (cell: number, run: Run, more: Partial<Parameters<typeof importLog>[2]> = {}) =>
    importLog(fresh.lab, fresh.admin, {
      lotId,
      cellId: cells[cell]!.id,
      fileName: `${cells[cell]!.number} ${run.seed}.csv`,
      ...(more.path ? {} : { bytes: log(run) }),
      ...more,
    });
  const page = (cell: number) => cellPage(fresh.lab, fresh.admin, { number: cells[cell]!.number });
  let keys = 0;
  const type = (
    cell: number,
    kind: 'acResistance' | 'energyBehindInverter' | 'capacity' | 'durationShown',
    value: number,
    more: { repeats?: number[]; probe?: 'terminal' | 'bolt' | 'bar'; decimals?: number } = {},
  ) =>
    recordReadings(fresh.lab, fresh.admin, {
      lotId,
      readings: [
        {
          cellId: cells[cell]!.id,
          kind,
          value,
          decimals: 3,
          ...more,
          clientKey: `00000000-0000-4000-8000-${String(keys++).padStart(12, '0')}`,
        },
      ],
    });

  beforeAll(async () => {
    fresh = await freshLab();
    ({ id: lotId, code } = await claimedLot(fresh, 14));
    cells = await lotCells(fresh.lab, fresh.admin, { lotId });
    for (let cell = 0; cell < 8; cell++) {
      await take(cell, { seed: 100 + cell, capacityAh: 104 + 0.4 * cell });
      await type(cell, 'acResistance', 0.44 + 0.002 * (cell % 3));
    }
  });
  afterAll(async () => {
    await fresh.close();
    rmSync(folder, { recursive: true, force: true });
  });

  it('a log that lies in a file gives the bits it gives as bytes', async () => {
    const bytes = log({ seed: 1 });
    const whole = await take(8, { seed: 1 }, { bytes: bytes.slice() });
    // One more blank line makes it another file with the same rows.
    const path = join(folder, 'same.csv');
    writeFileSync(path, Buffer.concat([bytes, Buffer.from('\n')]));
    const piece = await take(9, { seed: 1 }, { path });
    const figures = async (runId: number) =>
      (await runPage(fresh.lab, fresh.admin, { id: runId })).figures
        .filter(({ quantity }) => quantity !== 'capacityAtClaim')
        .map(({ quantity, value, standardUncertainty }) => [quantity, value, standardUncertainty]);
    expect(await figures(piece.runId)).toEqual(await figures(whole.runId));
    const checked = await checkRun(fresh.lab, fresh.admin, { id: piece.runId });
    expect(checked.length).toBeGreaterThan(3);
    expect(checked.every(({ same }) => same)).toBe(true);
    expect((await failure(take(10, { seed: 1 }, { path }))).message).toContain('same file');
  });

  it('a reading that was cancelled stores nothing', async () => {
    const control = new AbortController();
    const before = await fresh.lab.store.runs.count({});
    const waiting = failure(take(10, { seed: 2 }, { signal: control.signal }));
    control.abort();
    expect((await waiting).message).toContain('cancelled');
    expect(await fresh.lab.store.runs.count({})).toBe(before);
  });

  it('three AC readings: the median must be the value, the single ones are kept', async () => {
    await type(11, 'acResistance', 0.46, { repeats: [0.45, 0.46, 0.49] });
    const { readings } = await page(11);
    expect(readings[0]).toMatchObject({ value: 0.46, repeats: [0.45, 0.46, 0.49] });
    const wrong = await failure(type(11, 'acResistance', 0.49, { repeats: [0.45, 0.46, 0.49] }));
    expect(wrong.message).toContain('Expected the median');
  });

  it('over the bar a resistance is never held against the cell', async () => {
    await type(12, 'acResistance', 0.9, { probe: 'bar' });
    const { line, doubts } = await page(12);
    expect(line.acVerdict).toBe('tooClose');
    expect(doubts.settleAc!.ways[0]).toContain('on the terminals');
    await type(12, 'acResistance', 0.9, { probe: 'terminal' });
    expect((await page(12)).line.acVerdict).toBe('notMet');
  });

  it('a window is estimated from the full curves of its model', async () => {
    const { runId } = await take(10, { seed: 3, cutoffV: 3.1, capacityAh: 103 });
    const view = await runWindow(fresh.lab, fresh.admin, { id: runId, fromV: 3.25, toV: 3.15 });
    expect(view.window!.quantity).toBe('windowCapacity');
    expect(Math.abs(view.full!.value - 103)).toBeLessThan(
      3 * view.full!.standardUncertainty! + 1.5,
    );
    const beyond = await runWindow(fresh.lab, fresh.admin, { id: runId, fromV: 3.25, toV: 2.9 });
    expect(beyond.window).toBeNull();
    expect(beyond.reason).toContain('did not reach 2.9 V');
  });

  it('AC energy, counter and what was typed stand beside the log', async () => {
    const { runs } = await page(0);
    await type(0, 'energyBehindInverter', 310, { decimals: 0 });
    await type(0, 'capacity', 99.5, { decimals: 1 });
    const view = await runPage(fresh.lab, fresh.admin, { id: runs[0]!.id });
    expect(view.inverter!.efficiency.value).toBeGreaterThan(0.85);
    expect(view.inverter!.efficiency.value).toBeLessThan(0.97);
    expect(view.charges!.findings.map(({ code }) => code)).toContain('typed-disagrees');
    // Time as shown checks a typed charge; it is no figure.
    const before = await fresh.lab.store.figures.count({});
    await type(0, 'durationShown', 5, { decimals: 0 });
    expect(await fresh.lab.store.figures.count({})).toBe(before);
  });

  it('a poor joint is suspected before the cell, and told by the repeat', async () => {
    await take(13, { seed: 4, leadMohm: 4 });
    await type(13, 'acResistance', 0.44);
    const { doubts } = await page(13);
    expect(doubts.joint).toMatchObject({ suspect: 'joint' });
    expect(doubts.joint!.why).toMatch(/^DC resistance .* the lot /);
    expect(doubts.joint!.facts.map(({ answer }) => answer)).toEqual(['yes', 'unknown', 'unknown']);
    await recordRetightened(fresh.lab, fresh.admin, { number: cells[13]!.number });
    await take(13, { seed: 5 });
    const after = (await page(13)).doubts.joint!;
    expect(after.facts[1]).toMatchObject({ answer: 'yes', speaksFor: 'joint' });
    expect(after.advice).toContain('take the later result');
    expect((await page(1)).doubts.joint).toBeNull();
  });

  it('what is known of leads goes to the budget', async () => {
    const budgetOf = async (runId: number) =>
      (await runPage(fresh.lab, fresh.admin, { id: runId })).figures
        .find(({ quantity }) => quantity === 'capacity')!
        .detail.budget.find(({ name }) => name === 'lead resistance')!.standardUncertainty;
    const sure = await take(
      2,
      { seed: 6, cutoffV: 2.4 },
      { leadMohm: 2, leadUncertaintyMohm: 0.02 },
    );
    const typed = await take(2, { seed: 7, cutoffV: 2.4 }, { leadMohm: 2 });
    expect((await budgetOf(typed.runId)) / (await budgetOf(sure.runId))).toBeCloseTo(
      0.2 / Math.sqrt(3) / 0.02,
      0,
    );
  });

  it('rate sets, derivatives and the tolerance limit of the lot', async () => {
    const instrument = await addInstrument(fresh.lab, fresh.admin, {
      kind: 'tester',
      name: 'Bench',
      accuracy: {
        currentGainPct: 0.2,
        currentOffsetA: 0.001,
        voltageGainPct: 0.02,
        voltageOffsetV: 0.001,
        timePpm: 20,
      },
    });
    const channel = await addChannel(fresh.lab, fresh.admin, {
      instrumentId: instrument.id,
      name: '2',
      voltageTable: [],
    });
    for (const [i, currentA] of [20.8, 41.6].entries())
      await take(3, { seed: 20 + i, currentA }, { channelId: channel.id });
    const sets = await rateSets(fresh.lab, fresh.admin, { lotId });
    const own = sets.find(({ cell }) => cell === cells[3]!.number)!;
    expect(own.points.map(({ rateIt }) => Number(rateIt.toFixed(1)))).toEqual([0.2, 0.2, 0.4]);
    expect(own.points.every(({ energyWh }) => energyWh! > 300)).toBe(true);
    const derivatives = await lotDerivatives(fresh.lab, fresh.admin, { lotId });
    expect(derivatives.length).toBeGreaterThan(8);
    expect(derivatives[0]!.incremental!.ahPerV.length).toBe(
      derivatives[0]!.incremental!.voltageV.length,
    );
    const { capacity } = await lotVerdict(fresh.lab, fresh.admin, { code });
    expect(capacity!.tolerance!.limit?.value ?? 0).toBeLessThan(capacity!.mean!);
  });
});
