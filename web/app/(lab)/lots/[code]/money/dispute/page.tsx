import { mayAct } from '@dusk-tally/lab';
import { lotDisputes } from '@dusk-tally/lab/disputes';
import { LotFrame } from '@/features/arrivals/lot-frame';
import { DisputeView } from '@/features/money/dispute/dispute-view';
import { proposalOf } from '@/features/money/dispute/words';
import { Crumbs } from '@/kit/crumbs';
import { lab } from '@/lib/lab';
import { lotContext } from '@/lib/lot-page';

export const metadata = { title: 'Dispute' };

export default async function DisputePage({ params }: { params: Promise<{ code: string }> }) {
  const { who, head } = await lotContext((await params).code);
  const lotId = head.lot.id;
  const told = await lotDisputes(lab(), who, { lotId });
  return (
    <LotFrame head={head} tab="money">
      <Crumbs way={[{ href: `/lots/${head.lot.code}/money`, name: 'Money' }]} />
      <DisputeView
        lot={{ id: lotId, code: head.lot.code }}
        told={told}
        proposal={proposalOf(told.books)}
        currency={told.books.currency}
        mayLead={mayAct(who.role, 'lead')}
      />
    </LotFrame>
  );
}
