import { mayAct } from '@dusk-tally/lab';
import { benchLots, listRecipes, planBoard } from '@dusk-tally/lab/bench';
import { PlanView } from '@/features/bench/plan-view';
import { lab } from '@/lib/lab';
import { requireActor } from '@/lib/session';

export const metadata = { title: 'Plan' };

export default async function PlanPage() {
  const who = await requireActor();
  const [board, lots, recipes] = await Promise.all([
    planBoard(lab(), who, {}),
    benchLots(lab(), who, {}),
    listRecipes(lab(), who, {}),
  ]);
  return (
    <PlanView
      board={board}
      lots={lots}
      recipes={recipes.map(({ id, name, purpose }) => ({ id, name, purpose }))}
      mayLead={mayAct(who.role, 'lead')}
    />
  );
}
