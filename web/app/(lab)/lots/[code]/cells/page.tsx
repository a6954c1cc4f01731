import { cellLines } from '@dusk-tally/lab/verdicts';
import { LotFrame } from '@/features/arrivals/lot-frame';
import { CellsTable } from '@/features/verdicts/cells-table';
import { packLines } from '@/features/verdicts/packed-lines';
import { lab } from '@/lib/lab';
import { lotContext } from '@/lib/lot-page';

export const metadata = { title: 'Cells' };

export default async function CellsPage({ params }: { params: Promise<{ code: string }> }) {
  const { head } = await lotContext((await params).code);
  return (
    <LotFrame head={head} tab="cells">
      <CellsTable code={head.lot.code} packed={packLines(await cellLines(lab(), head.lot.id))} />
    </LotFrame>
  );
}
