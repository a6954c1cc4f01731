'use client';

import type { PeriodChange, StringWatch } from '@dusk-tally/core/evidence';
import type { StringPage } from '@dusk-tally/lab/evidence';
import { useState } from 'react';
import { Button } from '@/kit/button';
import { Choice, Option } from '@/kit/choice';
import { Label } from '@/kit/form-parts';
import { Problem } from '@/kit/page';
import { NumberInput } from '@/kit/quantity-field';
import { Table } from '@/kit/table';
import { typedNumber } from '@/kit/typed-number';
import { useAct } from '@/kit/use-act';
import { compareStringsAct } from '../acts';
import { LeaderBars } from './leader-bars';
import { MeanChart } from './mean-chart';
import { percent, watchFacts } from './watch-words';

interface Period {
  id: number;
  fromH: string;
  toH: string;
}

interface Beside {
  before: StringWatch;
  after: StringWatch;
  change: PeriodChange;
}

const hours = (seconds: number): string => String(Number((seconds / 3600).toFixed(3)));

/** Two periods as they are offered: this log and the next of the lot, or both halves of this one. */
export function firstPeriods({ id, durationS, others }: StringPage): [Period, Period] {
  const whole = { id, fromH: '0', toH: hours(durationS) };
  const other = others.find((one) => one.id !== id);
  if (!other)
    return [
      { ...whole, toH: hours(durationS / 2) },
      { ...whole, fromH: hours(durationS / 2) },
    ];
  const beside = { id: other.id, fromH: '0', toH: hours(other.durationS) };
  return other.id > id ? [whole, beside] : [beside, whole];
}

function PeriodFields({
  title,
  period,
  others,
  onPeriod,
}: {
  title: string;
  period: Period;
  others: StringPage['others'];
  onPeriod: (period: Period) => void;
}) {
  return (
    <fieldset className="flex flex-wrap items-end gap-2">
      <legend className="mb-1 font-medium">{title}</legend>
      <Label text="Log">
        <Choice
          className="min-w-56"
          value={period.id}
          onValue={(next) => {
            const other = others.find(({ id }) => id === Number(next))!;
            onPeriod({ id: other.id, fromH: '0', toH: hours(other.durationS) });
          }}
        >
          {others.map(({ id, name }) => (
            <Option key={id} value={id}>
              {name}
            </Option>
          ))}
        </Choice>
      </Label>
      <Label text="from / h" className="w-24">
        <NumberInput
          quantity="plain"
          text={period.fromH}
          onText={(fromH) => onPeriod({ ...period, fromH })}
        />
      </Label>
      <Label text="to / h" className="w-24">
        <NumberInput
          quantity="plain"
          text={period.toH}
          onText={(toH) => onPeriod({ ...period, toH })}
        />
      </Label>
    </fieldset>
  );
}

/** Both periods told side by side. */
function Result({
  beside: { before, after, change },
  names,
  balanceMv,
}: {
  beside: Beside;
  names: readonly string[];
  balanceMv: number;
}) {
  const [first, second] = [watchFacts(before, balanceMv), watchFacts(after, balanceMv)];
  const figureOf = (facts: typeof first, what: string) =>
    facts.find(([own]) => own === what)?.[1] ?? '–';
  const both = [...new Set([...first, ...second].map(([what]) => what))];
  return (
    <div className="mt-3" data-testid="periods-beside">
      {change.refused ? (
        <p>{change.refused}</p>
      ) : change.leads.length === 0 ? (
        <p>In neither period does a cell stand out near full.</p>
      ) : (
        <ul>
          {change.leads.map(({ cell, side, before: was, after: is, change: words }) => (
            <li key={`${cell}${side}`}>
              <strong className="font-semibold">{names[cell]}</strong> {words}: {side} near full for{' '}
              {percent(was)} of the time, then {percent(is)}.
            </li>
          ))}
        </ul>
      )}
      <div className="mt-2 grid gap-4 lg:grid-cols-2">
        <Table label="Both periods" className="w-full">
          <thead>
            <tr>
              <th />
              <th className="num">first</th>
              <th className="num">second</th>
            </tr>
          </thead>
          <tbody>
            {both.map((what) => (
              <tr key={what}>
                <td>{what}</td>
                <td className="num whitespace-nowrap">{figureOf(first, what)}</td>
                <td className="num whitespace-nowrap">{figureOf(second, what)}</td>
              </tr>
            ))}
          </tbody>
        </Table>
        <figure>
          <figcaption>Median spread at the same mean: line first, dashes second</figcaption>
          <MeanChart
            balanceMv={balanceMv}
            lines={[
              { name: 'first', steps: atSame(before, change) },
              { name: 'second', steps: atSame(after, change), dashed: true },
            ]}
          />
        </figure>
        {before.nearFull && after.nearFull && (
          <>
            <figure>
              <figcaption>First: who leads near full</figcaption>
              <LeaderBars leaders={before.nearFull} names={names} />
            </figure>
            <figure>
              <figcaption>Second: who leads near full</figcaption>
              <LeaderBars leaders={after.nearFull} names={names} />
            </figure>
          </>
        )}
      </div>
    </div>
  );
}

/** Steps of the mean that both periods have seen for long enough. */
const atSame = (watch: StringWatch, { atMeans }: PeriodChange) =>
  watch.byMean.filter(({ meanV }) => atMeans.some((one) => Math.abs(one.meanV - meanV) < 1e-9));

/** Puts two periods of the string side by side. */
export function PeriodCompare({
  page,
  names,
  balanceMv,
}: {
  page: StringPage;
  names: readonly string[];
  balanceMv: number;
}) {
  const [periods, setPeriods] = useState(() => firstPeriods(page));
  const [beside, setBeside] = useState<Beside | null>(null);
  const { run, busy, problem, setProblem } = useAct();
  const change = (at: 0 | 1) => (period: Period) => {
    setBeside(null);
    setPeriods(([first, second]) => (at === 0 ? [period, second] : [first, period]));
  };
  const compare = () => {
    const [before, after] = periods.map(({ id, fromH, toH }) => ({
      stringId: id,
      fromS: 3600 * (typedNumber(fromH) ?? 0),
      toS: 3600 * (typedNumber(toH) ?? NaN),
    }));
    if ([before, after].some((one) => Number.isNaN(one!.fromS) || !(one!.toS > one!.fromS))) {
      setProblem('Expected hours from the beginning of the log, the end after its beginning.');
      return;
    }
    run(() => compareStringsAct({ before: before!, after: after! }), setBeside);
  };
  return (
    <section className="panel mt-4 p-4" aria-label="Two periods side by side">
      <h2 className="font-semibold">Two periods side by side</h2>
      <div className="mt-2 flex flex-wrap items-end gap-x-8 gap-y-2">
        {(['First period', 'Second period'] as const).map((title, at) => (
          <PeriodFields
            key={title}
            title={title}
            period={periods[at]!}
            others={page.others}
            onPeriod={change(at as 0 | 1)}
          />
        ))}
        <Button disabled={busy} onClick={compare}>
          {busy ? 'Comparing …' : 'Compare'}
        </Button>
      </div>
      {problem && (
        <div className="mt-2">
          <Problem>{problem}</Problem>
        </div>
      )}
      {beside && <Result beside={beside} names={names} balanceMv={balanceMv} />}
    </section>
  );
}
