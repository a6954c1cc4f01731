import { SHIPPED_RECIPES } from '@dusk-tally/core/bench';
import { mayAct } from '@dusk-tally/lab';
import { listRecipes, triedModels } from '@dusk-tally/lab/bench';
import { listProtocols } from '@dusk-tally/lab/resting';
import { notFound } from 'next/navigation';
import { type RecipeDraft, RecipeEditor } from '@/features/bench/recipe-editor';
import { RetireRecipe } from '@/features/bench/recipe-off-list';
import { lab } from '@/lib/lab';
import { requireActor } from '@/lib/session';

export const metadata = { title: 'Recipe' };

export default async function RecipePage({ params }: { params: Promise<{ id: string }> }) {
  const { id } = await params;
  const who = await requireActor();
  const [recipes, models, protocols] = await Promise.all([
    listRecipes(lab(), who, {}),
    triedModels(lab(), who, {}),
    listProtocols(lab(), who, {}),
  ]);
  const recipe = recipes.find((one) => String(one.id) === id);
  if (!recipe && id !== 'new') notFound();
  const draft: RecipeDraft = recipe
    ? {
        id: recipe.id,
        rowVersion: recipe.rowVersion,
        number: recipe.current,
        name: recipe.name,
        purpose: recipe.purpose,
        attendedOnly: recipe.attendedOnly,
        clamping: recipe.clamping,
        thenRest: recipe.thenRest,
        steps: recipe.steps,
      }
    : {
        id: null,
        rowVersion: null,
        number: 0,
        name: '',
        purpose: 'own',
        attendedOnly: false,
        clamping: null,
        thenRest: null,
        steps: [...SHIPPED_RECIPES[0]!.steps],
      };
  return (
    <>
      <RecipeEditor
        key={`${id}-${draft.number}`}
        draft={draft}
        models={models}
        protocols={protocols.map(({ protocol }) => protocol.name)}
      />
      {recipe && mayAct(who.role, 'lead') && <RetireRecipe id={recipe.id} name={recipe.name} />}
    </>
  );
}
