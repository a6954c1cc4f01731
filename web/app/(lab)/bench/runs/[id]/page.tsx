import { LabError, mayAct } from '@dusk-tally/lab';
import { photosOfLot } from '@dusk-tally/lab/arrivals';
import { benchRunView } from '@dusk-tally/lab/bench';
import { enoughOfRun, foldTrouble, handLogView } from '@dusk-tally/lab/gathering';
import { notFound } from 'next/navigation';
import { PhotoDrop } from '@/features/arrivals/photo-drop';
import { FoldTrouble } from '@/features/bench/fold-trouble';
import { HandLog } from '@/features/bench/hand-log/hand-log';
import { RunView } from '@/features/bench/run-view';
import { lab } from '@/lib/lab';
import { requireActor } from '@/lib/session';
import { idOf } from '@/lib/id-param';

export const metadata = { title: 'Run on the bench' };

export default async function BenchRunPage({ params }: { params: Promise<{ id: string }> }) {
  const who = await requireActor();
  const id = idOf((await params).id);
  const view = await benchRunView(lab(), who, { id }).catch((error: unknown) => {
    if (error instanceof LabError && error.code === 'notFound') notFound();
    throw error;
  });
  const { driven, lotId } = view.run;
  const [log, photos, enough, trouble] = await Promise.all([
    driven ? null : handLogView(lab(), who, { benchRunId: id }),
    driven ? [] : photosOfLot(lab(), who, { lotId }),
    enoughOfRun(lab(), who, { benchRunId: id }),
    foldTrouble(lab(), who, { benchRunId: id }),
  ]);
  return (
    <RunView
      key={id}
      view={view}
      enough={enough}
      trouble={
        trouble && (
          <FoldTrouble benchRunId={id} trouble={trouble} mayLead={mayAct(who.role, 'lead')} />
        )
      }
      hand={
        log && (
          <HandLog
            view={log}
            photos={
              <PhotoDrop
                lotId={lotId}
                subject={{ type: 'benchRun', id }}
                photos={photos}
                title="Photographs of the display"
              />
            }
          />
        )
      }
    />
  );
}
