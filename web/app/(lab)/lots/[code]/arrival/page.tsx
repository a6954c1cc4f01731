import { lotArrival } from '@dusk-tally/lab/arrivals';
import { redirect } from 'next/navigation';
import { lab } from '@/lib/lab';
import { lotContext } from '@/lib/lot-page';

/** Leads to the first step that is still open. */
export default async function ArrivalPage({ params }: { params: Promise<{ code: string }> }) {
  const { who, head } = await lotContext((await params).code);
  const { steps } = await lotArrival(lab(), who, { lotId: head.lot.id });
  const open = steps.find(({ state }) => state === 'open' || state === 'begun') ?? steps[0]!;
  redirect(`/lots/${head.lot.code}/arrival/${open.step}`);
}
