import { cellLines } from '@dusk-tally/lab/verdicts';
import { LotFrame } from '@/features/arrivals/lot-frame';
import { packLines } from '@/features/verdicts/packed-lines';
import { lab } from '@/lib/lab';
import { lotContext } from '@/lib/lot-page';
import { CellsWithActs } from './cells-with-acts';

export const metadata = { title: 'Cells' };

/** The 4.2 V class is judged by volts, what is charged to less by its lot (handbook, chapter 4). */
const FLAT_BELOW_V = 4.1;

export default async function CellsPage({ params }: { params: Promise<{ code: string }> }) {
  const { head } = await lotContext((await params).code);
  return (
    <LotFrame head={head} tab="cells">
      <CellsWithActs
        lot={{ id: head.lot.id, code: head.lot.code }}
        flat={head.profile.chargeV < FLAT_BELOW_V}
        packed={packLines(await cellLines(lab(), head.lot.id))}
      />
    </LotFrame>
  );
}
