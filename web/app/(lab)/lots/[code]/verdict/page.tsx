import { lotSample } from '@dusk-tally/lab/arrivals';
import {
  cellLines,
  lotConditioning,
  lotDays,
  lotOutlook,
  lotSpread,
  movesOfLot,
  verdictOfLot,
} from '@dusk-tally/lab/verdicts';
import { LotFrame } from '@/features/arrivals/lot-frame';
import { PlausibilityNote } from '@/features/arrivals/plausibility-note';
import { ConditioningTable } from '@/features/verdicts/conditioning-table';
import { LotDays } from '@/features/verdicts/lot-days';
import { LotMoves } from '@/features/verdicts/lot-moves';
import { LotOutlookLine } from '@/features/verdicts/lot-outlook';
import { SampleLine } from '@/features/verdicts/sample-line';
import { VerdictView } from '@/features/verdicts/verdict-view';
import { lab } from '@/lib/lab';
import { lotContext } from '@/lib/lot-page';

export const metadata = { title: 'Verdict' };

export default async function VerdictPage({ params }: { params: Promise<{ code: string }> }) {
  const { who, head } = await lotContext((await params).code);
  const [verdict, moves, conditioning, outlook, spread, days, sample] = await Promise.all([
    cellLines(lab(), head.lot.id).then((lines) => verdictOfLot(lab(), head, lines)),
    movesOfLot(lab(), who, { lotId: head.lot.id }),
    lotConditioning(lab(), who, { lotId: head.lot.id }),
    lotOutlook(lab(), who, { lotId: head.lot.id }),
    lotSpread(lab(), who, { lotId: head.lot.id }),
    lotDays(lab(), who, { lotId: head.lot.id }),
    lotSample(lab(), who, { lotId: head.lot.id }),
  ]);
  return (
    <LotFrame head={head} tab="verdict">
      <VerdictView verdict={verdict} spread={spread} code={head.lot.code} />
      <LotOutlookLine outlook={outlook} />
      {sample && <SampleLine sample={sample} code={head.lot.code} />}
      <ConditioningTable conditioning={conditioning} />
      <LotDays days={days} />
      <div className="mt-5">
        <LotMoves moves={moves} />
      </div>
      {head.claim.plausibility && (
        <div className="mt-5">
          <PlausibilityNote plausibility={head.claim.plausibility} />
        </div>
      )}
    </LotFrame>
  );
}
