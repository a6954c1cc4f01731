import { historyOf, mayAct } from '@dusk-tally/lab';
import { listModels, lotsOfModels } from '@dusk-tally/lab/arrivals';
import { ModelSheet } from '@/features/arrivals/model-sheet';
import { Empty, PageHead } from '@/kit/page';
import { Crumbs } from '@/kit/crumbs';
import { lab } from '@/lib/lab';
import { requireActor } from '@/lib/session';

export const metadata = { title: 'Cell models' };

export default async function ModelsPage() {
  const who = await requireActor();
  const models = await listModels(lab(), who, {});
  const [lots, histories] = await Promise.all([
    lotsOfModels(lab(), who, {}),
    Promise.all(
      models.map(({ id }) =>
        historyOf(lab(), who, { subjectType: 'cell model', subjectId: String(id) }),
      ),
    ),
  ]);
  return (
    <>
      <Crumbs way={[{ href: '/lab', name: 'Lab' }]} />
      <PageHead
        title="Cell models"
        lead="What the data sheets say. A claim that leaves something open inherits it from here."
      />
      {models.length === 0 ? (
        <Empty title="No model is described yet">They come with the lots you take in.</Empty>
      ) : (
        <div className="space-y-4">
          {models.map((model, i) => (
            <ModelSheet
              key={`${model.id}-${model.version}`}
              model={model}
              lots={lots[model.id] ?? 0}
              history={histories[i]!}
              mayChange={mayAct(who.role, 'lead')}
            />
          ))}
        </div>
      )}
    </>
  );
}
