import { programOf } from '@dusk-tally/core/bench';
import { recordCharge, recordDischarge, rowsAsCsv, typicalCell } from '@dusk-tally/core/simulator';
import type { Lab } from '@dusk-tally/lab';
import { listRecipes } from '@dusk-tally/lab/bench';
import { importLog } from '@dusk-tally/lab/evidence';
import type { Stage } from './basics';

const HOUR_MS = 3_600_000;

const earlier = (stage: Stage, hours: number): Lab => ({
  ...stage.lab,
  now: () => new Date(stage.now.getTime() - hours * HOUR_MS),
});

/** A charge, an hour of rest and a discharge of a sodium-ion cell, as one log. */
function chargeAndDischarge(capacityAh: number, risesEarlyV: number, seed: number) {
  const cell = { ...typicalCell('sodium-ion', 3.5), capacityAh };
  const charge = recordCharge(cell, {
    currentA: 0.7,
    chargeV: 3.9,
    taperA: 0.17,
    intervalS: 30,
    restBeforeS: 600,
    ambientC: 23.5,
    seed,
    from: 0.02,
    risesEarlyV,
  });
  const discharge = recordDischarge(cell, {
    currentA: 0.7,
    cutoffV: 1.8,
    intervalS: 30,
    restBeforeS: 3600,
    restAfterS: 600,
    ambientC: 23.5,
    seed: seed + 1,
  });
  const from = charge[charge.length - 1]!.timeS + 30;
  return new TextEncoder().encode(
    rowsAsCsv([...charge, ...discharge.map((row) => ({ ...row, timeS: row.timeS + from }))]),
  );
}

/** Two cells that were conditioned: one rose early and is normal after it, one was normal before. */
export async function conditionTwo(
  stage: Stage,
  lotId: number,
  ids: readonly [number, number],
): Promise<void> {
  const { technician, lab } = stage;
  const recipe = (await listRecipes(lab, technician, {})).find(
    ({ purpose }) => purpose === 'conditioning',
  )!;
  const program = programOf(recipe.steps, {
    ratedAh: 3.5,
    claimRateIt: 0.2,
    claimCutoffV: 1.8,
    chargeV: 3.9,
    storageV: 2.5,
    maxChargeA: null,
    maxDischargeA: null,
  });
  for (const [i, cellId] of ids.entries()) {
    const channelId = stage.channels.west[i === 0 ? 0 : 1]!;
    const take = (hoursAgo: number, name: string, bytes: Uint8Array<ArrayBuffer>) =>
      importLog(earlier(stage, hoursAgo), technician, {
        lotId,
        cellId,
        channelId,
        fileName: `${name} ${i + 1}.csv`,
        bytes,
      });
    await take(
      80,
      'before conditioning',
      chargeAndDischarge(i === 0 ? 3.41 : 3.548, i === 0 ? 0.06 : 0, 6300 + 10 * i),
    );
    const { runId } = await take(
      6,
      'after conditioning',
      chargeAndDischarge(i === 0 ? 3.495 : 3.552, 0, 6305 + 10 * i),
    );
    await lab.store.bench.runs.insert({
      jobId: null,
      cellId,
      lotId,
      channelId,
      recipeVersionId: recipe.versionId,
      program,
      limits: { highV: 3.9, lowV: 1.5, ambientC: 23, intervalS: 30 },
      startList: [],
      driven: false,
      state: 'stored',
      agent: null,
      speed: 1,
      chemistry: 'sodium-ion',
      expectedAh: 3.5,
      startSoc: 0.3,
      counterAh: 0,
      ambientC: 23,
      clamping: null,
      startedAt: new Date(stage.now.getTime() - (46 - 2 * i) * HOUR_MS),
      endedAt: new Date(stage.now.getTime() - (8 - i) * HOUR_MS),
      endReason: 'Done at the instrument.',
      completed: true,
      runId,
      personId: technician.id,
      createdAt: new Date(stage.now.getTime() - 46 * HOUR_MS),
    });
  }
}
