import { mayAct } from '@dusk-tally/lab';
import { listRecipes, retiredRecipes } from '@dusk-tally/lab/bench';
import { Link } from '@/kit/link';
import { RetiredRecipes } from '@/features/bench/recipe-off-list';
import { stepWords } from '@/features/bench/recipe-steps';
import { ButtonLink } from '@/kit/button';
import { lab } from '@/lib/lab';
import { requireActor } from '@/lib/session';

export const metadata = { title: 'Recipes' };

export default async function RecipesPage() {
  const who = await requireActor();
  const [recipes, retired] = await Promise.all([
    listRecipes(lab(), who, {}),
    retiredRecipes(lab(), who, {}),
  ]);
  const mayLead = mayAct(who.role, 'lead');
  return (
    <>
      <div className="mb-4 flex flex-wrap items-start justify-between gap-3">
        <p className="max-w-[80ch] text-quiet">
          A recipe is a list of steps. Each change makes a new version; a run keeps the one it used.
        </p>
        {mayLead && (
          <ButtonLink href="/bench/recipes/new" look="primary">
            New recipe
          </ButtonLink>
        )}
      </div>
      <div className="gap-3 lg:columns-2">
        {recipes.map((recipe) => (
          <article key={recipe.id} className="panel mb-3 break-inside-avoid p-4">
            <div className="flex flex-wrap items-baseline justify-between gap-2">
              <h2 className="font-semibold">
                <Link href={`/bench/recipes/${recipe.id}`} className="hover:underline">
                  {recipe.name}
                </Link>
              </h2>
              <span className="text-[0.85rem] text-quiet">
                version {recipe.current}
                {recipe.shipped ? ', ships with the app' : ''}
                {recipe.runs > 0 ? `, ${recipe.runs} runs` : ''}
                {recipe.attendedOnly ? ', attended only' : ''}
                {recipe.clamping === 'fixture' && ', clamped'}
                {recipe.clamping === 'free' && ', free'}
              </span>
            </div>
            <ol className="mt-1 list-inside list-decimal text-[0.92rem]">
              {recipe.steps.map((step, i) => (
                <li key={i}>{stepWords(step)}</li>
              ))}
            </ol>
          </article>
        ))}
      </div>
      <RetiredRecipes recipes={retired} mayLead={mayLead} />
    </>
  );
}
