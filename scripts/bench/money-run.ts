import { randomUUID } from 'node:crypto';
import { SHIPPED_SCHEME } from '@dusk-tally/core/verdicts';
import type { Actor, Lab } from '@dusk-tally/lab';
import { addLot } from '@dusk-tally/lab/arrivals';
import {
  disputeFileData,
  disputeFilePdf,
  issueDisputeFile,
  openDispute,
} from '@dusk-tally/lab/disputes';
import { recordReadings } from '@dusk-tally/lab/evidence';
import { supplierRecords } from '@dusk-tally/lab/records';
import { lotCells, saveScheme, tryScheme } from '@dusk-tally/lab/verdicts';
import { spread, timed } from './timing';
import { withLab } from './with-lab';

const LOTS = 50;
const CELLS = 240;

/** Lots of 240 cells with capacities and resistances typed, beside those of the demo. */
async function manyLots(lab: Lab, actor: Actor): Promise<void> {
  const supplier = (await lab.store.suppliers.find({}))[0]!;
  const model = (await lab.store.cellModels.one({ name: 'Marl 32700' }))!;
  const there = await lab.store.lots.count({});
  for (let at = there; at < LOTS; at++) {
    const lot = await addLot(lab, actor, {
      title: `Measured ${at}`,
      supplierId: supplier.id,
      modelId: model.id,
      quantity: CELLS,
      claim: [{ kind: 'capacity', value: 6, conditions: { rateIt: 0.2, cutoffV: 2.5 } }],
    });
    const cells = await lotCells(lab, actor, { lotId: lot.id });
    await recordReadings(lab, actor, {
      lotId: lot.id,
      readings: cells.flatMap(({ id }, i) => [
        {
          cellId: id,
          kind: 'capacity' as const,
          value: 5.4 + (((i * 37 + at * 11) % 100) / 100) * 0.9,
          decimals: 3,
          clientKey: randomUUID(),
        },
        {
          cellId: id,
          kind: 'acResistance' as const,
          value: 7 + ((i * 13) % 30) / 10,
          decimals: 2,
          clientKey: randomUUID(),
        },
      ]),
    });
  }
}

/** A scheme tried on all lots: one that asks for nothing of the lot, and one that does. */
async function trying(lab: Lab, actor: Actor): Promise<void> {
  const { version: _, ...shipped } = SHIPPED_SCHEME;
  const strict = {
    ...shipped,
    grades: shipped.grades.map((grade) =>
      grade.name === 'Second'
        ? { ...grade, conditions: [{ kind: 'stateOfHealth' as const, limit: 0.97 }] }
        : grade,
    ),
  };
  const byLot = {
    ...shipped,
    grades: shipped.grades.map((grade) =>
      grade.name === 'Second'
        ? {
            ...grade,
            conditions: [
              { kind: 'stateOfHealth' as const, limit: 0.95 },
              { kind: 'acResistanceOfLot' as const, limit: 1.1 },
            ],
          }
        : grade,
    ),
  };
  for (const [words, scheme] of [
    ['of its own figures', strict],
    ['against the lot’s median', byLot],
  ] as const) {
    let told = { cells: 0, moved: 0 };
    const times = await timed(5, async () => {
      told = await tryScheme(lab, actor, { scope: 'house', scheme });
    });
    const seen = (await lab.store.grading.schemes.find({})).at(-1)?.schemeVersion ?? 1;
    const [kept] = await timed(1, () =>
      saveScheme(lab, actor, { scope: 'house', seen, scheme, reason: 'measured' }),
    );
    console.log(`Kept, and every cell graded anew by it: ${(kept! / 1000).toFixed(1)} s`);
    console.log(
      `A scheme ${words} tried on ${told.cells} cells of ${LOTS} lots (${told.moved} move): ${spread(times)}`,
    );
  }
}

/** The dispute file of the demo’s lot of 240 cells. */
async function disputing(lab: Lab, actor: Actor): Promise<void> {
  const lot = (await lab.store.lots.one({ code: 'L-001' }))!;
  const { id: disputeId } = await openDispute(lab, actor, {
    lotId: lot.id,
    remedy: 'partialRefund',
    ask: 100,
    ground: 'what the buyer lost by it',
    language: 'de',
  });
  let number = '';
  let bytes = 0;
  const frozen = await timed(5, async () => {
    ({ number } = await issueDisputeFile(lab, actor, { disputeId }));
  });
  const set = await timed(5, async () => {
    bytes = (await disputeFilePdf(lab, actor, { number })).length;
  });
  const times = frozen.map((took, i) => took + set[i]!);
  console.log(`Frozen: ${spread(frozen)}; set: ${spread(set)}`);
  const data = (await disputeFileData(lab, actor, { number })).text.length;
  console.log(
    `A dispute file of 240 cells, frozen and set: ${spread(times)}; PDF ${(bytes / 1e6).toFixed(2)} MB, data ${(data / 1e6).toFixed(2)} MB`,
  );
}

await withLab(async (lab, actor) => {
  await disputing(lab, actor);
  await manyLots(lab, actor);
  await trying(lab, actor);
  const times = await timed(5, () => supplierRecords(lab, actor, {}));
  console.log(`Records of all suppliers over ${LOTS} lots: ${spread(times)}`);
});
