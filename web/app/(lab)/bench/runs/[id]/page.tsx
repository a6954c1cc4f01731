import { LabError } from '@dusk-tally/lab';
import { benchRunView } from '@dusk-tally/lab/bench';
import { notFound } from 'next/navigation';
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
  return <RunView key={view.run.id} view={view} />;
}
