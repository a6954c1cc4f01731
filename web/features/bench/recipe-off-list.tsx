'use client';

import { useRouter } from 'next/navigation';
import { Button } from '@/kit/button';
import { LabDay } from '@/kit/lab-time';
import { Problem } from '@/kit/page';
import { offerUndoOf } from '@/kit/undo-toast';
import { useAct } from '@/kit/use-act';
import { retireRecipeAct, takeUpRecipeAct } from './bench-acts';

/** Takes a recipe off the list; what ran by it stays as it is. */
export function RetireRecipe({ id, name }: { id: number; name: string }) {
  const router = useRouter();
  const { run, busy, problem } = useAct();
  const retire = () =>
    run(
      (key) => retireRecipeAct({ id }, key),
      () => {
        offerUndoOf(`“${name}” is off the list.`, () => takeUpRecipeAct({ id }));
        router.push('/bench/recipes');
      },
    );
  return (
    <section className="mt-4 border-t border-rule pt-3" aria-label="Off the list">
      <div className="flex flex-wrap items-center gap-3">
        <Button disabled={busy} onClick={retire}>
          Take off the list
        </Button>
        <p className="text-quiet">
          Nothing new can be tested by it then. Runs by it and their figures stay as they are; it
          can be taken up again.
        </p>
      </div>
      {problem && <Problem>{problem}</Problem>}
    </section>
  );
}

/** Recipes that were taken off the list. */
export function RetiredRecipes({
  recipes,
  mayLead,
}: {
  recipes: readonly { id: number; name: string; retiredAt: Date }[];
  mayLead: boolean;
}) {
  const { run, busy, problem } = useAct();
  if (recipes.length === 0) return null;
  return (
    <section className="mt-6" aria-label="Recipes off the list">
      <h2 className="font-semibold">Off the list</h2>
      <ul className="mt-1 space-y-1">
        {recipes.map(({ id, name, retiredAt }) => (
          <li key={id} className="flex flex-wrap items-center gap-3">
            <span>{name}</span>
            <span className="text-quiet">
              since <LabDay at={retiredAt} />
            </span>
            {mayLead && (
              <Button
                look="bare"
                disabled={busy}
                aria-label={`Take up ${name} again`}
                onClick={() => run((key) => takeUpRecipeAct({ id }, key))}
              >
                Take it up again
              </Button>
            )}
          </li>
        ))}
      </ul>
      {problem && <Problem>{problem}</Problem>}
    </section>
  );
}
