'use client';

import type { LotRecord } from '@dusk-tally/lab/records';
import { formatNumber } from '@dusk-tally/core/units';
import { Link } from '@/kit/link';
import { ReasonForm } from '@/kit/reason-form';
import { Table } from '@/kit/table';
import { takeBackEarlierLotAct } from './acts';
import { amount, marginWords } from './words';

function Lot({ lot, mayLead }: { lot: LotRecord; mayLead: boolean }) {
  const { code, title, model, arrivedOn, cells, judged, met, tooClose, margin } = lot;
  const cost =
    lot.goodKwh && lot.landedCents !== null ? amount(lot.landedCents / lot.goodKwh) : '–';
  return (
    <tr>
      <td className="whitespace-nowrap">{arrivedOn ?? 'under way'}</td>
      <td>
        {code ? (
          <Link href={`/lots/${code}/verdict`} className="hover:underline">
            {title} <span className="text-quiet">{code}</span>
          </Link>
        ) : (
          <>
            {title} <span className="text-quiet">from before, by its papers</span>
            {mayLead && (
              <ReasonForm
                open="Take it back"
                title={`Take back ${title}`}
                note="It counts no more; that it was here stays in the history."
                does="Take it back"
                act={(reason, _form, key) => takeBackEarlierLotAct({ id: lot.id, reason }, key)}
              />
            )}
          </>
        )}
        <span className="block text-[0.85rem] text-quiet">
          {model}
          {lot.dispute && `; dispute ${lot.dispute}`}
          {lot.calledOff !== null && `; called off: ${lot.calledOff}`}
        </span>
      </td>
      <td className="num">{cells}</td>
      <td className="num whitespace-nowrap">
        {judged > 0 ? `${met} of ${judged}` : '–'}
        {tooClose > 0 && (
          <span className="block text-[0.82rem] text-quiet">{tooClose} too close</span>
        )}
      </td>
      <td className="num whitespace-nowrap">{margin === null ? '–' : marginWords(margin)}</td>
      <td className="num whitespace-nowrap">
        {lot.goodKwh === null ? '–' : formatNumber(lot.goodKwh, 2)}
      </td>
      <td className="num whitespace-nowrap">{cost}</td>
    </tr>
  );
}

/** Lots of a supplier, the newest first, those from before the app among them. */
export function SupplierLots({
  lots,
  currency,
  mayLead,
}: {
  lots: readonly LotRecord[];
  currency: string;
  mayLead: boolean;
}) {
  return (
    <section className="panel p-4" aria-label="Lots">
      <h2 className="font-semibold">Lots</h2>
      <Table label="Lots of this supplier">
        <thead>
          <tr>
            <th>Arrived</th>
            <th>Lot</th>
            <th className="num">Cells</th>
            <th className="num">Met</th>
            <th className="num">Over claim</th>
            <th className="num">Good / kWh</th>
            <th className="num">A good kWh / {currency}</th>
          </tr>
        </thead>
        <tbody>
          {lots.map((lot) => (
            <Lot key={`${lot.source} ${lot.id}`} lot={lot} mayLead={mayLead} />
          ))}
        </tbody>
      </Table>
    </section>
  );
}
