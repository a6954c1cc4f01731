'use client';

import type { OfferCheck, SimilarClaims } from '@dusk-tally/lab/records';
import { formatNumber } from '@dusk-tally/core/units';
import { ButtonLink } from '@/kit/button';
import { Table } from '@/kit/table';
import { ShareLine } from './share-line';
import { amount, lotsWords, percent } from './words';

function Similar({ similar }: { similar: readonly SimilarClaims[] }) {
  return (
    <Table label="What similar claims turned out to be">
      <thead>
        <tr>
          <th>Claims of</th>
          <th>Capacities met</th>
          <th className="num">Energy in good cells</th>
        </tr>
      </thead>
      <tbody>
        {similar.map(({ of, lots, share, expected, isReckonedWith }) => (
          <tr key={of}>
            <td>
              {of}
              <span className="block text-[0.85rem] text-quiet">
                {lotsWords(lots)}
                {isReckonedWith && ', reckoned with below'}
              </span>
            </td>
            <td>
              {share && share.judged > 0 ? (
                <>
                  <ShareLine share={share} mean={null} width={200} />
                  <span className="block text-[0.85rem]">
                    {percent(share.share)} ({percent(share.low)} to {percent(share.high)})
                  </span>
                </>
              ) : (
                <span className="text-quiet">nothing judged yet</span>
              )}
            </td>
            <td className="num whitespace-nowrap">
              {expected ? percent(expected.good) : '–'}
              {expected && (
                <span className="block text-[0.85rem] text-quiet">
                  {percent(expected.low)} to {percent(expected.high)}
                </span>
              )}
            </td>
          </tr>
        ))}
      </tbody>
    </Table>
  );
}

function Money({ check }: { check: OfferCheck }) {
  const { cost, worthCents, targetCents, currency, claimedKwh, paidIn } = check;
  return (
    <div className="space-y-1">
      <p>{formatNumber(claimedKwh, 2)} kWh are claimed.</p>
      {cost ? (
        <p>
          A kWh in good cells is to cost about{' '}
          <strong className="font-semibold">
            {amount(cost.cents)} {currency}
          </strong>
          {cost.high === null
            ? `, at least ${amount(cost.low)}; such a lot may hold none.`
            : `, between ${amount(cost.low)} and ${amount(cost.high)}.`}
        </p>
      ) : (
        <p className="text-quiet">
          What a good kWh will cost is told with a price, and once any lot ran its course.
        </p>
      )}
      {worthCents !== null && targetCents !== null && (
        <p>
          At {amount(targetCents)} {currency} a good kWh we would pay{' '}
          <strong className="font-semibold">
            {amount(worthCents)} {currency}
          </strong>
          {paidIn && ` (${amount(Math.round(worthCents / paidIn.rate))} ${paidIn.currency})`}
          {worthCents === 0 && ': not even as a gift'}.
        </p>
      )}
    </div>
  );
}

/** What an offer is worth, as far as it can be known before it is here. */
export function OfferResult({ check }: { check: OfferCheck }) {
  const { plausibility, similar, samples } = check;
  return (
    <section className="space-y-4" aria-label="What it is worth">
      <div
        role="status"
        className={`panel border-l-4 p-4 ${!plausibility.possible ? 'border-missed' : plausibility.largestAh === null ? 'border-rule' : 'border-met'}`}
      >
        <h2 className="font-semibold">
          {!plausibility.possible
            ? 'It cannot be true.'
            : plausibility.largestAh === null
              ? 'Whether it can be true is not known.'
              : 'It can be true.'}
        </h2>
        <p>{plausibility.sentence}</p>
      </div>
      <div className="panel p-4">
        <h2 className="font-semibold">What similar claims turned out to be</h2>
        <Similar similar={similar} />
      </div>
      <div className="panel p-4">
        <h2 className="font-semibold">What it would cost</h2>
        {plausibility.possible ? (
          <Money check={check} />
        ) : (
          <p className="text-missed">
            What is not there has no price: nothing is expected of a claim that cannot be true.
          </p>
        )}
      </div>
      {samples.length > 0 && (
        <div className="panel p-4">
          <h2 className="font-semibold">What a sample would tell</h2>
          <Table label="What a sample would tell">
            <thead>
              <tr>
                <th className="num">Cells tested</th>
                <th className="num">Finds a fault of one in ten</th>
                <th className="num">Share of good ones to within</th>
              </tr>
            </thead>
            <tbody>
              {samples.map(({ sample, findsOneInTen, halfWidth }) => (
                <tr key={sample}>
                  <td className="num">{sample}</td>
                  <td className="num">{percent(findsOneInTen)}</td>
                  <td className="num">± {formatNumber(100 * halfWidth, 0)} %</td>
                </tr>
              ))}
            </tbody>
          </Table>
        </div>
      )}
      <ButtonLink href="/arrivals/new?from=offer">It was bought: take it in as a lot</ButtonLink>
    </section>
  );
}
