import { formatNumber } from '@dusk-tally/core/units';
import type { LotVerdict } from '@dusk-tally/lab/verdicts';
import { Link } from '@/kit/link';
import { HeldOfLot } from './held-results';
import { HumpsNote } from './humps-note';
import { ItemChart } from './item-chart';
import { ItemsTable } from './items-table';

type Item = NonNullable<LotVerdict['capacity']>;

function Chart({
  title,
  item,
  unit,
  band,
}: {
  title: string;
  item: Item;
  unit: string;
  band: number | null;
}) {
  if (item.bins.length === 0) return null;
  return (
    <section className="panel p-4">
      <h2 className="font-semibold">{title}</h2>
      <ItemChart bins={item.bins} limit={item.limit} band={band} unit={unit} />
      {band !== null && (
        <p className="text-[0.82rem] text-quiet">
          The shaded width round the claim is ± {formatNumber(band, band < 0.1 ? 4 : 3)} {unit}, the
          typical expanded uncertainty of a result: inside it no verdict falls.
        </p>
      )}
    </section>
  );
}

/** The lot verdict: sentence, table by claim item, spread, grades. */
export function VerdictView({ verdict, code }: { verdict: LotVerdict; code: string }) {
  const { capacity, acResistance, grades, guardFactor } = verdict;
  const band = (item: Item) =>
    item.typicalU === null ? null : item.typicalU * Math.max(guardFactor, 0);
  return (
    <div className="space-y-5">
      <HeldOfLot holds={verdict.holds} code={code} />
      <p className="max-w-[72ch] text-xl leading-snug" data-testid="lot-sentence">
        {verdict.sentence}
      </p>
      {verdict.items.length > 0 && <ItemsTable verdict={verdict} />}
      {capacity?.humps?.isMixed && <HumpsNote humps={capacity.humps} unit="Ah" />}
      <div className="grid gap-5 xl:grid-cols-2">
        {capacity && (
          <Chart title="Capacity, cells by value" item={capacity} unit="Ah" band={band(capacity)} />
        )}
        {acResistance && (
          <Chart
            title="AC resistance at 1 kHz, cells by value"
            item={acResistance}
            unit="mΩ"
            band={band(acResistance)}
          />
        )}
      </div>
      <section className="panel p-4">
        <h2 className="font-semibold">Grades</h2>
        <p className="mt-1">
          {grades.map(({ name, count }) => `${count} ${name}`).join(', ') || 'None yet'}
          {verdict.waiting > 0 && `; ${verdict.waiting} waiting for a capacity test`}.{' '}
          <Link href={`/lots/${code}/cells`} className="text-ember underline">
            Why, cell by cell
          </Link>
        </p>
      </section>
    </div>
  );
}
