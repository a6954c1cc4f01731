import { afterAll, beforeAll, expect, it } from 'vitest';
import { completeModel } from '../src/arrivals';
import { addJobs, listRecipes, planBoard, saveRecipe, startList } from '../src/bench';
import { importLog } from '../src/evidence';
import { loadClaim } from '../src/lots';
import { issueReport, reportPage } from '../src/reports';
import { lotCells } from '../src/verdicts';
import { benchLab, type BenchLab, NOW } from '../testing/bench-lab';
import { failure } from '../testing/failure';
import { recordDischarge, rowsAsCsv, typicalCell } from '@dusk-tally/core/simulator';

let made: BenchLab;
beforeAll(async () => {
  made = await benchLab(() => NOW);
});
afterAll(() => made.fresh.close());

const lab = () => made.fresh.lab;
const take = (at: number, clamping: 'fixture' | 'free' | null) =>
  importLog(lab(), made.technician, {
    lotId: made.lotId,
    cellId: made.cells[at]!.id,
    clamping,
    fileName: `${at}.csv`,
    bytes: new TextEncoder().encode(
      rowsAsCsv(
        recordDischarge(typicalCell('LFP', 6.2), {
          currentA: 1.2,
          cutoffV: 2.5,
          intervalS: 30,
          restBeforeS: 3900,
          restAfterS: 60,
          ambientC: 25,
          seed: 70 + at,
        }),
      ),
    ),
  });
const told = async (at: number) =>
  (await lotCells(lab(), made.technician, { lotId: made.lotId }))
    .find(({ id }) => id === made.cells[at]!.id)!
    .differences.filter((text) => text.includes('held'));
/** Gives the model of the lot a clamping force. */
const state = async (clampForceN: number) => {
  const { model } = await loadClaim(lab(), made.lotId);
  return completeModel(lab(), made.fresh.admin, {
    id: model.id,
    version: model.version,
    sheet: { clampForceN },
    reason: 'read in the data sheet',
  });
};

it('nothing is told while neither claim nor data sheet says how; once it does, each run is', async () => {
  await take(0, 'fixture');
  await take(1, 'free');
  await take(2, null);
  expect(await Promise.all([0, 1, 2].map(told))).toEqual([[], [], []]);
  const before = await lotCells(lab(), made.technician, { lotId: made.lotId });
  expect((await failure(state(-3))).code).toBe('invalid');
  await state(2000);
  expect(await told(0)).toEqual([]);
  expect((await told(1))[0]).toMatch(/held in a fixture .*, tested free: .* no number/);
  expect((await told(2))[0]).toContain('how it was held in the test is not recorded');
  // It is said, and moves no figure and no verdict.
  const after = await lotCells(lab(), made.technician, { lotId: made.lotId });
  for (const [i, line] of after.entries())
    expect(line).toMatchObject({
      capacityAh: before[i]!.capacityAh,
      verdict: before[i]!.verdict,
      grade: before[i]!.grade,
    });
});

it('the start list says how to hold the cell, and what that differs in from the claim', async () => {
  const recipe = (await listRecipes(lab(), made.technician, {})).find(
    ({ name }) => name === 'Quick screen',
  )!;
  const listFor = async (at: number, recipeId: number) => {
    await addJobs(lab(), made.technician, {
      lotId: made.lotId,
      cellIds: [made.cells[at]!.id],
      recipeId,
    });
    const { jobs } = await planBoard(lab(), made.technician, {});
    const job = jobs.find(({ cellId }) => cellId === made.cells[at]!.id)!;
    return startList(lab(), made.technician, { jobId: job.id, channelId: made.channels[0]! });
  };
  const usual = await listFor(5, recipe.id);
  expect(usual).toMatchObject({ clamping: 'fixture', clampForceN: 2000 });
  expect(usual.differences.join()).not.toContain('held');
  const free = await saveRecipe(lab(), made.fresh.admin, {
    name: 'Quick screen, free',
    purpose: 'own',
    attendedOnly: recipe.attendedOnly,
    clamping: 'free',
    steps: recipe.steps,
  });
  const list = await listFor(6, free.id);
  expect(list.clamping).toBe('free');
  expect(list.differences.join()).toContain('tested free');
});

it('the report says how many were held in which way', async () => {
  const { number } = await issueReport(lab(), made.fresh.admin, {
    lotId: made.lotId,
    cellIds: [0, 1, 2].map((at) => made.cells[at]!.id),
    customer: 'A buyer',
  });
  const { snapshot } = await reportPage(lab(), made.fresh.admin, { number });
  expect(snapshot.method).toContain(
    'How the cells were held in the test: 1 in a fixture at the data sheet’s force; 1 free; 1 not recorded.',
  );
  expect(snapshot.claim[0]!.conditions).toContain(
    'held in a fixture at the data sheet’s force (data sheet)',
  );
});
