import type { GradeScheme } from '@dusk-tally/core/verdicts';
import type { Transaction } from '@dusk-tally/store';
import type { Lab } from '../../shared';
import { schemeFor } from './schemes';

/** Grades that stand where they stood, with the same conditions and another name: from the old to the new. */
export function renamedGrades(
  before: GradeScheme['grades'],
  after: GradeScheme['grades'],
): Map<string, string> {
  const [old, now] = [before, after].map((grades) => new Set(grades.map(({ name }) => name))) as [
    Set<string>,
    Set<string>,
  ];
  return new Map(
    before.flatMap(({ name, conditions }, i) => {
      const next = after[i];
      return next &&
        next.name !== name &&
        !now.has(name) &&
        !old.has(next.name) &&
        JSON.stringify(next.conditions) === JSON.stringify(conditions)
        ? [[name, next.name] as const]
        : [];
    }),
  );
}

/** What a cell of a grade brings stays with it under its new name, in the books of all lots graded by a scheme. */
export async function keepPrices(
  lab: Lab,
  scope: string,
  renamed: ReadonlyMap<string, string>,
  transaction: Transaction,
): Promise<void> {
  if (renamed.size === 0) return;
  const { books, lots, cellModels } = lab.store;
  const kept = await books.find({}, { transaction });
  const modelOf = new Map(
    (await lots.find({ id: kept.map(({ lotId }) => lotId) }, { transaction })).map((lot) => [
      lot.id,
      lot.modelId,
    ]),
  );
  const models = await cellModels.find({ id: [...new Set(modelOf.values())] }, { transaction });
  const own = new Set<number>();
  for (const model of models)
    if ((await schemeFor(lab, model, transaction)).scope === scope) own.add(model.id);
  for (const { id, lotId, gradePrices, version } of kept) {
    if (!own.has(modelOf.get(lotId)!)) continue;
    const prices = Object.fromEntries(
      Object.entries(gradePrices).map(([name, price]) => [renamed.get(name) ?? name, price]),
    );
    if (JSON.stringify(prices) !== JSON.stringify(gradePrices))
      await books.update({ gradePrices: prices, version: version + 1 }, { id }, transaction);
  }
}
