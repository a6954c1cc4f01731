import { LotFrame } from '@/features/arrivals/lot-frame';
import { CurvesView } from '@/features/verdicts/curves-view';
import { lotContext } from '@/lib/lot-page';

export const metadata = { title: 'Curves' };

export default async function CurvesPage({ params }: { params: Promise<{ code: string }> }) {
  const { head } = await lotContext((await params).code);
  return (
    <LotFrame head={head} tab="curves">
      <CurvesView
        lotId={head.lot.id}
        claimAh={head.claim.capacityAh?.value ?? null}
        cutoffV={head.claim.cutoffV.value}
      />
    </LotFrame>
  );
}
