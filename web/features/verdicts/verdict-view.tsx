import { pText } from '@dusk-tally/core/statistics';
import { formatNumber } from '@dusk-tally/core/units';
import type { LotVerdict } from '@dusk-tally/lab/verdicts';
import Link from 'next/link';
import { HeldOfLot } from './held-results';
import { HumpsNote } from './humps-note';
import { ItemChart } from './item-chart';

type Item = NonNullable<LotVerdict['capacity']>;

const percent = (share: number): string => `${(100 * share).toFixed(1)} %`;

/** How the tolerance limit was come by, or why there is none. */
function toleranceWords({ limit, reason }: NonNullable<Item['tolerance']>, n: number): string {
  if (!limit) return `: not stated. ${reason ?? ''}`.replace(/\.$/, '');
  const p =
    limit.normalP === null
      ? ''
      : ` (${n < 8 ? 'Shapiro–Wilk' : 'Anderson–Darling'}, ${pText(limit.normalP)})`;
  return limit.by === 'normal'
    ? `, by mean and spread, which look normal${p}`
    : `, by rank, as the spread is not normal${p}`;
}

/** A share with its interval beneath. */
function ShareCell({ share }: { share: Item['shareShort'] }) {
  return (
    <td className="num">
      {share ? (
        <>
          {percent(share.share)}
          <span className="block text-[0.78rem] text-quiet">
            {percent(share.low)} to {percent(share.high)}
          </span>
        </>
      ) : (
        '–'
      )}
    </td>
  );
}

function Row({
  name,
  limit,
  unit,
  item,
  decimals,
}: {
  name: string;
  limit: string;
  unit: string;
  item: Item;
  decimals: number;
}) {
  const number = (value: number | null) => (value === null ? '–' : formatNumber(value, decimals));
  return (
    <tr>
      <th scope="row" className="font-medium">
        {name}
        <span className="block text-[0.82rem] font-normal text-quiet">
          {limit} {unit}
        </span>
      </th>
      <td className="num">{item.n}</td>
      <td className="num">
        {number(item.mean)}
        {item.meanInterval && (
          <span className="block text-[0.78rem] text-quiet">
            {number(item.meanInterval.low)} to {number(item.meanInterval.high)}
          </span>
        )}
      </td>
      <td className="num">{number(item.standardDeviation)}</td>
      <td className="num">{number(item.minimum)}</td>
      <td className="num">{number(item.fifthPercentile)}</td>
      <td className="num">
        {item.tolerance ? number(item.tolerance.limit?.value ?? null) : '–'}
        {item.tolerance?.limit && (
          <span className="block text-[0.78rem] text-quiet">
            {item.tolerance.limit.by === 'normal'
              ? `k = ${item.tolerance.limit.factor.toFixed(3)}`
              : `rank ${item.tolerance.limit.factor}`}
          </span>
        )}
      </td>
      <td className="num text-met">{item.met}</td>
      <td className="num text-missed">{item.notMet}</td>
      <td className="num text-doubt">{item.tooClose}</td>
      <ShareCell share={item.shareShort} />
      <ShareCell share={item.trulyShort} />
    </tr>
  );
}

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
      {(capacity || acResistance) && (
        <div className="panel overflow-x-auto p-2">
          <table className="table-plain w-full">
            <thead>
              <tr>
                <th>Claim</th>
                <th className="num">n</th>
                <th className="num">Mean, 95 %</th>
                <th className="num">Std. dev.</th>
                <th className="num">Lowest</th>
                <th className="num">5th pct.</th>
                <th className="num">95 % exceed</th>
                <th className="num">Met</th>
                <th className="num">Not met</th>
                <th className="num">Too close</th>
                <th className="num">Judged short</th>
                <th className="num">Truly short</th>
              </tr>
            </thead>
            <tbody>
              {capacity && (
                <Row
                  name="Capacity"
                  limit={`at least ${capacity.limit}`}
                  unit="Ah"
                  item={capacity}
                  decimals={3}
                />
              )}
              {acResistance && (
                <Row
                  name="AC resistance"
                  limit={`at most ${acResistance.limit}`}
                  unit="mΩ"
                  item={acResistance}
                  decimals={3}
                />
              )}
            </tbody>
          </table>
          <p className="px-2 py-1.5 text-[0.82rem] text-quiet">
            {guardFactor > 0
              ? `Decision rule: guard band of ${guardFactor === 1 ? '' : `${guardFactor} × `}U, k = 2. `
              : 'Simple acceptance: near the limit up to half of the verdicts may be wrong. '}
            {(capacity?.held ?? 0) > 0 &&
              `${capacity!.held} held ${capacity!.held === 1 ? 'result is' : 'results are'} left out. `}
            {(capacity?.notComparable ?? 0) > 0 &&
              `${capacity!.notComparable} results were measured under other conditions than claimed and are left out. `}
            95 % exceed: the value that 95 % of the cells exceed, with 95 % confidence
            {capacity?.tolerance ? toleranceWords(capacity.tolerance, capacity.n) : ''}. Judged
            short: the share judged not met, exact 95 % interval after Clopper and Pearson. Truly
            short: the estimated share below the claim with the measuring doubt taken in, 95 %
            interval by simulation. The mean’s interval carries what the meters have in common.
          </p>
        </div>
      )}
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
