import { stringLots, stringTest } from '@dusk-tally/lab/bench';
import { StringTestLoader } from '@/features/bench/string-test-loader';
import { lab } from '@/lib/lab';
import { orNotFound } from '@/lib/lot-page';
import { requireActor } from '@/lib/session';
import { LabMoment } from '@/kit/lab-time';
import { idOf } from '@/lib/id-param';

export const metadata = { title: 'Load test' };

export default async function LoadTestPage({ params }: { params: Promise<{ id: string }> }) {
  const who = await requireActor();
  const view = await orNotFound(stringTest(lab(), who, { id: idOf((await params).id) }));
  const lots = await stringLots(lab(), who, {});
  return (
    <>
      <h2 className="text-xl font-semibold">{view.row.title}</h2>
      <p className="mb-3 text-quiet">
        Lot {view.lot.code}, kept by {view.by}, <LabMoment at={view.row.updatedAt} />
      </p>
      <StringTestLoader
        key={view.row.version}
        lots={lots}
        view={view}
        logged={view.logged}
        runId={view.row.runId}
        lotId={view.lot.id}
      />
    </>
  );
}
