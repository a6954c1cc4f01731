import type { LotHead } from '@dusk-tally/lab/verdicts';
import { formatNumber } from '@dusk-tally/core/units';
import type { ReactNode } from 'react';
import { TallyStrip } from '@/kit/tally-strip';
import { LotCalledOff } from './lot-called-off';
import { LotFacts } from './lot-facts';
import { LotTabs } from './lot-tabs';

/** What is claimed, in a few words. */
function claimWords({ claim }: LotHead): string | null {
  const { capacityAh, rateIt, cutoffV, acResistanceMohm } = claim;
  const parts = [
    capacityAh
      ? `${capacityAh.value} Ah${rateIt ? ` at ${rateIt.value} It` : ''} to ${cutoffV.value} V`
      : null,
    acResistanceMohm ? `AC at most ${acResistanceMohm.value} mΩ` : null,
  ].filter(Boolean);
  return parts.length > 0 ? `claimed ${parts.join(', ')}` : 'nothing claimed yet';
}

/** What a lot is, in one line: the facts asked for most come first. */
function factsOf(head: LotHead): string {
  const { lot, supplier, model, strokes, tested, resistances } = head;
  return [
    `${lot.quantity > 0 ? `${lot.quantity} × ` : 'not here yet: '}${model.name} from ${supplier.name}`,
    claimWords(head),
    strokes.length > 0 ? `${tested} tested` : null,
    strokes.length > 0 ? `${resistances} AC resistances read` : null,
    lot.arrivedOn && `arrived ${lot.arrivedOn}`,
    lot.price && `${formatNumber(Number(lot.price), 2)} ${lot.currency}`,
  ]
    .filter(Boolean)
    .join(' · ');
}

/** The head every page of a lot carries: what, from whom, claim, where it stands, tally. */
export function LotFrame({
  head,
  tab,
  strip = true,
  children,
}: {
  head: LotHead;
  tab: string;
  /** False where the page itself shows the tally. */
  strip?: boolean;
  children: ReactNode;
}) {
  const { lot, strokes } = head;
  return (
    <>
      <header className="mb-2 flex flex-wrap items-baseline gap-x-3">
        <h1 className="text-xl font-semibold tracking-tight">{lot.title}</h1>
        <span className="text-quiet">{lot.code}</span>
        <LotFacts facts={factsOf(head)} />
      </header>
      {lot.cancelledAt && <LotCalledOff lot={lot} />}
      {strip && <TallyStrip strokes={strokes} rowHeight={tab === 'arrival' ? 40 : 52} />}
      <LotTabs code={lot.code} title={lot.title} strokes={strokes} current={tab} />
      {children}
    </>
  );
}
