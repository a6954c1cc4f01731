import { redirect } from 'next/navigation';
import { lotContext } from '@/lib/lot-page';

/** A lot opens where its work stands: its arrival while nothing is tested, cells after. */
export default async function LotPage({ params }: { params: Promise<{ code: string }> }) {
  const { code } = await params;
  const { head } = await lotContext(code);
  redirect(`/lots/${code}/${head.tested === 0 ? 'arrival' : 'cells'}`);
}
