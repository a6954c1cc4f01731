import { mayAct } from '@dusk-tally/lab';
import type { LotHead } from '@dusk-tally/lab/verdicts';
import { requireActor } from '@/lib/session';
import { CalledOff } from './lot-acts';

/** Said on every page of a lot that was called off. */
export async function LotCalledOff({ lot }: { lot: LotHead['lot'] }) {
  const who = await requireActor();
  return <CalledOff lot={lot} mayLead={mayAct(who.role, 'lead')} />;
}
