import { formatNumber } from '@dusk-tally/core/units';
import type { LotSpread, LotVerdict } from '@dusk-tally/lab/verdicts';
import { Link } from '@/kit/link';
import { STRONGEST_FACTS } from '@dusk-tally/core/verdicts';
import { HeldOfLot } from './held-results';
import { HumpsNote } from './humps-note';
import { ItemChart } from './item-chart';
import { ItemsTable } from './items-table';
import { SpreadView } from './spread-view';

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

/** The sentence, its three strongest facts, and what would change it. */
function LotWords({ verdict: { words, changes } }: { verdict: LotVerdict }) {
  const more = words.facts.length - STRONGEST_FACTS;
  return (
    <div data-testid="lot-sentence" className="max-w-[72ch]">
      <p className="text-xl leading-snug">{words.headline}</p>
      {words.facts.length > 0 && (
        <ul
          className="mt-2 list-disc space-y-0.5 pl-5 text-[1.05rem]"
          aria-label="What it rests on"
        >
          {words.facts.slice(0, STRONGEST_FACTS).map(({ text }) => (
            <li key={text}>{text}.</li>
          ))}
        </ul>
      )}
      {more > 0 && (
        <p className="mt-1 text-quiet">
          {more} more {more === 1 ? 'fact stands' : 'facts stand'} in the table.
        </p>
      )}
      {changes.length > 0 && (
        <p className="mt-2 text-quiet">
          <span className="font-medium">What would change it: </span>
          {changes.join(' ')}
        </p>
      )}
    </div>
  );
}

/** The lot verdict: sentence, table by claim item, spread, grades. */
export function VerdictView({
  verdict,
  spread,
  code,
}: {
  verdict: LotVerdict;
  spread: LotSpread;
  code: string;
}) {
  const { capacity, acResistance, grades, guardFactor } = verdict;
  const band = (item: Item) =>
    item.typicalU === null ? null : item.typicalU * Math.max(guardFactor, 0);
  return (
    <div className="space-y-5">
      <HeldOfLot holds={verdict.holds} heldCells={verdict.heldCells} code={code} />
      <LotWords verdict={verdict} />
      {verdict.items.length > 0 && <ItemsTable verdict={verdict} />}
      {spread.humps?.isMixed && <HumpsNote humps={spread.humps} spread={spread} unit="Ah" />}
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
      <SpreadView spread={spread} />
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
