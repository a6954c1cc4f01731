import { mayAct } from '@dusk-tally/lab';
import { listModels } from '@dusk-tally/lab/arrivals';
import { ModelSheet } from '@/features/arrivals/model-sheet';
import { Empty, PageHead } from '@/kit/page';
import { Crumbs } from '@/kit/crumbs';
import { lab } from '@/lib/lab';
import { requireActor } from '@/lib/session';

export const metadata = { title: 'Cell models' };

export default async function ModelsPage() {
  const who = await requireActor();
  const models = await listModels(lab(), who, {});
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
          {models.map((model) => (
            <ModelSheet
              key={`${model.id}-${model.version}`}
              model={model}
              mayChange={mayAct(who.role, 'lead')}
            />
          ))}
        </div>
      )}
    </>
  );
}
