import { lotOddCurves, rateSets } from '@dusk-tally/lab/verdicts';
import { LotFrame } from '@/features/arrivals/lot-frame';
import { CurvesView } from '@/features/verdicts/curves-view';
import { RateSetPanel } from '@/features/verdicts/rate-set-panel';
import { lab } from '@/lib/lab';
import { lotContext } from '@/lib/lot-page';

export const metadata = { title: 'Curves' };

export default async function CurvesPage({ params }: { params: Promise<{ code: string }> }) {
  const { who, head } = await lotContext((await params).code);
  const [odd, sets] = await Promise.all([
    lotOddCurves(lab(), who, { lotId: head.lot.id }),
    rateSets(lab(), who, { lotId: head.lot.id }),
  ]);
  return (
    <LotFrame head={head} tab="curves">
      <CurvesView
        lotId={head.lot.id}
        code={head.lot.code}
        odd={odd}
        cells={head.strokes.map(({ number }, i) => ({ id: i, number }))}
        claimAh={head.claim.capacityAh?.value ?? null}
        cutoffV={head.claim.cutoffV.value}
      />
      <RateSetPanel sets={sets} />
    </LotFrame>
  );
}
