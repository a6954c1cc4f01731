import type { LotHead } from '@dusk-tally/lab/verdicts';
import { formatNumber } from '@dusk-tally/core/units';
import type { ReactNode } from 'react';
import { TallyStrip } from '@/kit/tally-strip';
import { LotCalledOff } from './lot-called-off';
import { LotTabs } from './lot-tabs';

function claimSentence({ claim }: LotHead): string {
  const { capacityAh, rateIt, cutoffV, acResistanceMohm } = claim;
  const parts = [
    capacityAh
      ? `${capacityAh.value} Ah${rateIt ? ` at ${rateIt.value} It` : ''} to ${cutoffV.value} V`
      : null,
    acResistanceMohm ? `AC resistance at most ${acResistanceMohm.value} mΩ` : null,
  ].filter(Boolean);
  return parts.length > 0 ? `Claimed: ${parts.join('; ')}.` : 'Nothing claimed yet.';
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
  const { lot, supplier, model, strokes, tested, resistances } = head;
  return (
    <>
      <header className="mb-4">
        <div className="flex flex-wrap items-baseline gap-x-3">
          <h1 className="text-2xl font-semibold tracking-tight">{lot.title}</h1>
          <span className="text-quiet">{lot.code}</span>
        </div>
        <p className="text-quiet">
          {lot.quantity > 0 ? `${lot.quantity} × ` : 'Not here yet: '}
          {model.name} from {supplier.name}
          {lot.arrivedOn && `, arrived ${lot.arrivedOn}`}
          {lot.price && `, ${formatNumber(Number(lot.price), 2)} ${lot.currency}`}.{' '}
          {claimSentence(head)}{' '}
          {strokes.length > 0 &&
            `${tested} of ${strokes.length} tested, ${resistances} AC resistances read.`}
        </p>
      </header>
      {lot.cancelledAt && <LotCalledOff lot={lot} />}
      {strip && <TallyStrip strokes={strokes} rowHeight={tab === 'arrival' ? 42 : 64} />}
      <LotTabs code={lot.code} current={tab} />
      {children}
    </>
  );
}
