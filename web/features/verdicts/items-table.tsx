import { pText } from '@dusk-tally/core/statistics';
import { formatNumber } from '@dusk-tally/core/units';
import type { LotItem, LotVerdict } from '@dusk-tally/lab/verdicts';
import { VerdictWord } from '@/kit/verdict-word';
import { Table } from '@/kit/table';

type Summary = NonNullable<LotItem['summary']>;

const percent = (share: number): string => `${(100 * share).toFixed(1)} %`;

/** How the tolerance limit was come by, or why there is none. */
function toleranceWords({ limit, reason }: NonNullable<Summary['tolerance']>, n: number): string {
  if (!limit) return `: not stated. ${reason ?? ''}`.replace(/\.$/, '');
  const p =
    limit.normalP === null
      ? ''
      : ` (${n < 8 ? 'Shapiro–Wilk' : 'Anderson–Darling'}, ${pText(limit.normalP)})`;
  return limit.by === 'normal'
    ? limit.isAssumed
      ? `, by mean and spread, if the cells are spread normally, which ${n} results cannot show${p}`
      : `, by mean and spread, which look normal${p}`
    : `, by rank, as the spread is not normal${p}`;
}

/** A share with its interval beneath. */
function ShareCell({ share }: { share: Summary['shareShort'] }) {
  return (
    <td className="num">
      {share ? (
        <>
          {percent(share.share)}
          <span className="block text-[0.78rem] whitespace-nowrap text-quiet">
            {(100 * share.low).toFixed(1)} to {percent(share.high)}
          </span>
        </>
      ) : (
        '–'
      )}
    </td>
  );
}

/** n, mean, spread and what most exceed. */
function Spread({ summary }: { summary: Summary }) {
  const number = (value: number | null) => (value === null ? '–' : formatNumber(value, 3));
  const limit = summary.tolerance?.limit ?? null;
  return (
    <>
      <td className="num">
        {summary.n}
        {summary.bounds > 0 && (
          <span
            className="block text-[0.78rem] whitespace-nowrap text-quiet"
            title="Tests that ended early say at least so much: they are judged where that decides, and are no part of mean and spread."
          >
            + {summary.bounds} at least
          </span>
        )}
      </td>
      <td className="num">
        {number(summary.mean)}
        {summary.meanInterval && (
          <span className="block text-[0.78rem] text-quiet">
            {number(summary.meanInterval.low)} to {number(summary.meanInterval.high)}
          </span>
        )}
      </td>
      <td className="num">{number(summary.standardDeviation)}</td>
      <td className="num">{number(summary.minimum)}</td>
      <td className="num">{number(summary.fifthPercentile)}</td>
      <td className="num">
        {number(limit?.value ?? null)}
        {limit && (
          <span className="block text-[0.78rem] text-quiet">
            {limit.by === 'normal' ? `k = ${limit.factor.toFixed(3)}` : `rank ${limit.factor}`}
          </span>
        )}
      </td>
    </>
  );
}

const cells = (n: number) => `${n} ${n === 1 ? 'cell' : 'cells'}`;

/** What cells in one state say: how many, and why. */
function stateWords({ counts, why }: LotItem): string[] {
  const reasons = (state: string, n: number) => {
    const own = why.filter((one) => one.state === state);
    // One reason that all share needs no count of its own.
    return own.length === 1 && own[0]!.count === n
      ? own[0]!.text
      : own.map(({ text, count }) => `${text} (${count})`).join('; ');
  };
  const { contradicted = 0, nothingAgainst = 0, notComparable = 0, waitingFor = 0 } = counts;
  return [
    contradicted > 0
      ? `Contradicted for ${cells(contradicted)} by ${reasons('contradicted', contradicted)}.`
      : '',
    nothingAgainst > 0 ? `Nothing speaks against it for ${cells(nothingAgainst)}.` : '',
    notComparable > 0
      ? `${cells(notComparable)} not comparable: ${reasons('notComparable', notComparable)}`
      : '',
    waitingFor > 0
      ? `${cells(waitingFor)} ${waitingFor === 1 ? 'waits' : 'wait'} for ${reasons('waitingFor', waitingFor)}.`
      : '',
  ].filter(Boolean);
}

/** What an item says that has no numbers, or none yet. */
function InWords({ item }: { item: LotItem }) {
  const { lot } = item;
  return (
    <td colSpan={6} className="text-[0.87rem]">
      {lot && (
        <span className="block">
          {lot.state !== 'deadline' && <VerdictWord verdict={lot.state} />} {lot.text}
        </span>
      )}
      {stateWords(item).map((text) => (
        <span key={text} className="block">
          {text}
        </span>
      ))}
    </td>
  );
}

function Row({ item }: { item: LotItem }) {
  const { summary, counts, lot } = item;
  const openBounds = summary?.openBounds ?? 0;
  const hasSpread = summary !== null && summary.n + summary.bounds > 0;
  const count = (n: number | undefined) => (item.kind === 'disputeWindow' ? '' : (n ?? 0) || '–');
  return (
    <tr className="align-top">
      <th scope="row" className="font-medium">
        {item.words}
        <span className="block text-[0.82rem] font-normal text-quiet">{item.claimed}</span>
        {hasSpread && lot && (
          <span className="block text-[0.82rem] font-normal">
            {lot.state !== 'deadline' && <VerdictWord verdict={lot.state} />} {lot.text}
          </span>
        )}
      </th>
      {hasSpread ? <Spread summary={summary} /> : <InWords item={item} />}
      <td className="num text-met">{count(counts.met)}</td>
      <td className="num text-missed">{count(counts.notMet ?? counts.contradicted)}</td>
      <td className="num text-doubt">
        {count((counts.tooClose ?? 0) - openBounds)}
        {openBounds > 0 && (
          <span className="block text-[0.82rem]">
            + {openBounds} only {item.kind === 'capacity' ? 'at least' : 'at most'}
          </span>
        )}
      </td>
      <ShareCell share={hasSpread ? summary.shareShort : null} />
      <ShareCell share={hasSpread ? summary.trulyShort : null} />
    </tr>
  );
}

/** Every claimed item against what was found: spread where it is measured, words where it is not. */
export function ItemsTable({ verdict }: { verdict: LotVerdict }) {
  const { capacity, guardFactor, items } = verdict;
  return (
    <div className="panel overflow-x-auto p-2" data-testid="lot-items">
      <Table>
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
          {items.map((item) => (
            <Row key={item.kind} item={item} />
          ))}
        </tbody>
      </Table>
      <p className="px-2 py-1.5 text-[0.82rem] text-quiet">
        {guardFactor > 0
          ? `Decision rule: guard band of ${guardFactor === 1 ? '' : `${guardFactor} × `}U, k = 2. `
          : 'Simple acceptance: near the limit up to half of the verdicts may be wrong. '}
        {(capacity?.held ?? 0) > 0 &&
          `${capacity!.held} held ${capacity!.held === 1 ? 'result is' : 'results are'} left out. `}
        {(capacity?.notComparable ?? 0) > 0 &&
          `${capacity!.notComparable} results were measured under other conditions than claimed and are left out. `}
        {(capacity?.noUncertainty ?? 0) > 0 &&
          `Of ${capacity!.noUncertainty} results no uncertainty is known: they are not judged. `}
        n: the results mean and spread are made of. 95 % exceed: the value that 95 % of the cells
        exceed, with 95 % confidence
        {capacity?.tolerance ? toleranceWords(capacity.tolerance, capacity.n) : ''}. Judged short:
        the share judged not met, exact 95 % interval after Clopper and Pearson. Truly short: the
        estimated share below the claim with the measuring doubt taken in, 95 % interval by
        simulation. The mean’s interval carries what the meters have in common.
      </p>
    </div>
  );
}
