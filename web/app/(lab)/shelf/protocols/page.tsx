import { listProtocols } from '@dusk-tally/lab/resting';
import { ProtocolsView } from '@/features/resting/protocols-view';
import { Crumbs } from '@/kit/crumbs';
import { PageHead } from '@/kit/page';
import { lab } from '@/lib/lab';
import { requireActor } from '@/lib/session';

export const metadata = { title: 'Rest protocols' };

export default async function ProtocolsPage() {
  const who = await requireActor();
  const protocols = await listProtocols(lab(), who, {});
  return (
    <>
      <Crumbs way={[{ href: '/shelf', name: 'Shelf' }]} />
      <PageHead
        title="Rest protocols"
        lead="How long full cells stand, when they are read, and what follows. Cells on the shelf keep the version they were laid down by."
      />
      <ProtocolsView protocols={protocols} mayWrite={who.role !== 'technician'} />
    </>
  );
}
