import type { Clamping } from '@dusk-tally/core/chemistry';
import {
  programOf,
  type RecipeConditions,
  RecipeProblem,
  type RecipeStep,
} from '@dusk-tally/core/bench';
import type { RecipeRow, RecipeVersionRow, Transaction } from '@dusk-tally/store';
import { z } from 'zod';
import { found, isDuplicate, type Lab, LabError, procedure, question } from '../shared';
import { recipeChange } from '../inputs';

/** A recipe with the version in use. */
export interface RecipeView extends Omit<RecipeRow, 'version'> {
  rowVersion: number;
  versionId: number;
  steps: RecipeVersionRow['steps'];
  attendedOnly: boolean;
  thenRest: string | null;
  clamping: Clamping | null;
  note: string | null;
  /** How many runs used it, any version. */
  runs: number;
}

/** All recipes that are not retired, those that ship first. */
export const listRecipes = question({
  role: 'technician',
  input: z.object({}),
  run: async (lab): Promise<RecipeView[]> => {
    const { bench } = lab.store;
    const [recipes, versions, runs] = await Promise.all([
      bench.recipes.find({ retiredAt: null }, { order: [['id', 'ASC']] }),
      bench.recipeVersions.find({}),
      bench.runs.find({}, { columns: ['recipeVersionId'] }),
    ]);
    const used = new Map<number, number>();
    for (const { recipeVersionId } of runs)
      used.set(recipeVersionId, (used.get(recipeVersionId) ?? 0) + 1);
    return recipes.map(({ version, ...recipe }) => {
      const own = versions.filter(({ recipeId }) => recipeId === recipe.id);
      const { id, steps, attendedOnly, thenRest, clamping, note } = own.find(
        ({ number }) => number === recipe.current,
      )!;
      return {
        ...recipe,
        rowVersion: version,
        versionId: id,
        steps,
        attendedOnly,
        thenRest: thenRest ?? null,
        clamping: clamping ?? null,
        note,
        runs: own.reduce((sum, one) => sum + (used.get(one.id) ?? 0), 0),
      };
    });
  },
});

/** @throws LabError where a recipe would lay a cell to rest that it does not leave full. */
function requireFullEnd(thenRest: string | null, steps: readonly RecipeStep[]): void {
  const last = steps.findLast(({ kind }) => kind !== 'rest' && kind !== 'measure');
  if (thenRest !== null && last?.kind !== 'charge')
    throw new LabError(
      'invalid',
      'Expected a recipe that ends with a charge: only a full cell is laid to rest.',
      { field: 'thenRest' },
    );
}

/** What a recipe is checked with where no cell is chosen yet: a cell of 100 Ah. */
export const ANY_CELL: RecipeConditions = {
  ratedAh: 100,
  claimRateIt: 0.2,
  claimCutoffV: 2.5,
  chargeV: 4.2,
  storageV: 3.6,
  maxChargeA: null,
  maxDischargeA: null,
};

function requireSense(steps: RecipeVersionRow['steps']): void {
  try {
    programOf(steps, ANY_CELL);
  } catch (error) {
    if (error instanceof RecipeProblem)
      throw new LabError(
        'invalid',
        error.step > 0 ? `Step ${error.step}: ${error.message}` : error.message,
        {
          field: `steps.${error.step - 1}`,
        },
      );
    throw error;
  }
}

/** Keeps a recipe: a new one, or a new version of one that is here. Runs keep the one they used. */
export const saveRecipe = procedure({
  role: 'lead',
  input: recipeChange,
  run: async ({
    lab,
    actor,
    input,
    transaction,
    audit,
  }): Promise<{ id: number; number: number }> => {
    const { bench } = lab.store;
    requireSense(input.steps);
    const { name, purpose, steps, attendedOnly, thenRest, clamping } = input;
    requireFullEnd(thenRest, steps);
    const version = (recipeId: number, number: number) =>
      bench.recipeVersions.insert(
        {
          recipeId,
          number,
          steps,
          attendedOnly,
          thenRest,
          clamping,
          note: input.note || null,
          personId: actor.id,
          at: lab.now(),
        },
        transaction,
      );
    const taken = async (error: unknown): Promise<never> => {
      if (!isDuplicate(error)) throw error;
      const other = await bench.recipes.one({ name }, { transaction });
      const where = other?.retiredAt ? ', off the list: it can be taken up again' : '';
      throw new LabError('duplicate', `A recipe named ${name} is here already${where}.`, {
        field: 'name',
      });
    };
    if (!input.id) {
      const row = await bench.recipes
        .insert({ name, purpose, current: 1, shipped: false, retiredAt: null }, transaction)
        .catch(taken);
      await version(row.id, 1);
      await audit({
        act: 'wrote recipe',
        subjectType: 'recipe',
        subjectId: name,
        after: { steps, attendedOnly, thenRest, clamping },
      });
      return { id: row.id, number: 1 };
    }
    const before = found(
      await bench.recipes.one({ id: input.id }, { transaction, forUpdate: true }),
      'That recipe',
    );
    if (before.version !== input.rowVersion)
      throw new LabError(
        'conflict',
        `Someone changed “${before.name}” meanwhile. Reload to see how; yours is still on the screen.`,
      );
    requireOnList(before);
    const number = before.current + 1;
    await version(before.id, number);
    await bench.recipes
      .update(
        { name, purpose, current: number, version: before.version + 1 },
        { id: before.id },
        transaction,
      )
      .catch(taken);
    await audit({
      act: 'changed recipe',
      subjectType: 'recipe',
      subjectId: name,
      before: { number: before.current },
      after: { number, steps, attendedOnly, thenRest, clamping },
    });
    return { id: before.id, number };
  },
});

/** @throws LabError where a recipe is off the list: it is neither changed nor taken off again. */
function requireOnList({ name, retiredAt }: RecipeRow): void {
  if (retiredAt !== null)
    throw new LabError('conflict', `“${name}” is off the list. Take it up again first.`);
}

/** Recipes that were taken off the list, the last first. */
export const retiredRecipes = question({
  role: 'technician',
  input: z.object({}),
  run: async (lab): Promise<{ id: number; name: string; retiredAt: Date }[]> => {
    const rows = await lab.store.bench.recipes.find(
      { retiredAt: { not: null } },
      { order: [['retiredAt', 'DESC']], columns: ['id', 'name', 'retiredAt'] },
    );
    return rows.map(({ id, name, retiredAt }) => ({ id, name, retiredAt: retiredAt! }));
  },
});

/** Puts a recipe on the list again, as it was. */
export const takeUpRecipe = procedure({
  role: 'lead',
  input: z.object({ id: z.int() }),
  run: async ({ lab, input: { id }, transaction, audit }): Promise<void> => {
    const { recipes } = lab.store.bench;
    const recipe = found(
      await recipes.one({ id }, { transaction, forUpdate: true }),
      'That recipe',
    );
    if (recipe.retiredAt === null)
      throw new LabError('conflict', `“${recipe.name}” is on the list.`);
    await recipes.update({ retiredAt: null, version: recipe.version + 1 }, { id }, transaction);
    await audit({ act: 'took up recipe', subjectType: 'recipe', subjectId: recipe.name });
  },
});

/** Takes a recipe off the list; runs that used it keep it. */
export const retireRecipe = procedure({
  role: 'lead',
  input: z.object({ id: z.int() }),
  run: async ({ lab, input, transaction, audit }): Promise<void> => {
    const { bench } = lab.store;
    const recipe = found(
      await bench.recipes.one({ id: input.id }, { transaction, forUpdate: true }),
      'That recipe',
    );
    requireOnList(recipe);
    const versions = await bench.recipeVersions.find(
      { recipeId: recipe.id },
      { transaction, columns: ['id'] },
    );
    const waiting = await bench.jobs.count(
      {
        recipeVersionId: versions.map(({ id }) => id),
        state: ['waiting', 'planned', 'running'],
      },
      transaction,
    );
    if (waiting > 0)
      throw new LabError(
        'conflict',
        `${waiting === 1 ? '1 job waits' : `${waiting} jobs wait`} for “${recipe.name}” or run by it. Take what waits off the bench’s list first, or let it end.`,
      );
    await bench.recipes.update(
      { retiredAt: lab.now(), version: recipe.version + 1 },
      { id: recipe.id },
      transaction,
    );
    await audit({ act: 'retired recipe', subjectType: 'recipe', subjectId: recipe.name });
  },
});

/** A version of a recipe with its name and purpose. */
export async function recipeOf(
  lab: Lab,
  versionId: number,
  transaction?: Transaction,
): Promise<RecipeVersionRow & Pick<RecipeRow, 'name' | 'purpose'>> {
  const { bench } = lab.store;
  const version = found(
    await bench.recipeVersions.one({ id: versionId }, { transaction }),
    'That recipe',
  );
  const { name, purpose } = (await bench.recipes.one({ id: version.recipeId }, { transaction }))!;
  return { ...version, name, purpose };
}
