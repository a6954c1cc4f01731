'use client';

import type { StringWatch } from '@dusk-tally/core/evidence';
import { formatDuration } from '@dusk-tally/core/units';
import type { StringPage } from '@dusk-tally/lab/evidence';
import { useState } from 'react';
import { Button } from '@/kit/button';
import { Choice, Option } from '@/kit/choice';
import { Label } from '@/kit/form-parts';
import { Problem } from '@/kit/page';
import { NumberInput } from '@/kit/quantity-field';
import { Table } from '@/kit/table';
import { Tick } from '@/kit/tick';
import { typedNumber } from '@/kit/typed-number';
import { LeaderBars } from './leader-bars';
import { MeanChart } from './mean-chart';
import { StringCells } from './string-cells';
import { StringCharts, useLines } from './string-charts';
import { nearestStretch } from './string-lines';
import { useStretchWatch, useStringView } from './use-string-view';
import { useStringWindow } from './use-string-window';
import { holeWords, offWireWords, standOutWords, watchFacts } from './watch-words';

/** Before a peak this much is shown, and a little after it, s. */
const BEFORE_S = 1200;
const AFTER_S = 180;

/** What is shown, told: figures of the stretch beside those of cells at its means. */
function Told({
  watch,
  names,
  balance,
  onBalance,
}: {
  watch: StringWatch;
  names: readonly string[];
  balance: string;
  onBalance: (text: string) => void;
}) {
  const balanceMv = balanceOf(balance);
  return (
    <div className="grid gap-4 lg:grid-cols-[23rem_1fr_1fr]">
      <section className="panel p-4">
        <h2 className="font-semibold">What this stretch tells</h2>
        {offWireWords(watch, names).map((words) => (
          <p key={words} className="mt-1 text-missed" role="note">
            {words}
          </p>
        ))}
        <p className="mt-1" data-testid="stands-out">
          {standOutWords(watch, names)}
        </p>
        {watch.holes.length > 0 && <p className="mt-1 text-doubt">{holeWords(watch)}</p>}
        <Table label="What this stretch tells" className="mt-2 w-full">
          <tbody>
            {watchFacts(watch, balanceMv).map(([what, figure]) => (
              <tr key={what}>
                <td>{what}</td>
                <td className="num whitespace-nowrap">{figure}</td>
              </tr>
            ))}
          </tbody>
        </Table>
        <Label text="Balancing acts from / mV" className="mt-2 w-56">
          <NumberInput quantity="plain" text={balance} onText={onBalance} />
        </Label>
      </section>
      <figure className="panel p-4">
        <figcaption className="mb-1">
          Median spread against the mean voltage; dashes: balancing acts
        </figcaption>
        <MeanChart lines={[{ name: 'spread', steps: watch.byMean }]} balanceMv={balanceMv} />
      </figure>
      <figure className="panel p-4">
        <figcaption className="mb-1">
          {watch.nearFull
            ? `Near full, ${formatDuration(watch.nearFull.seconds)}: share of the time as the highest (up) and the lowest (down)`
            : 'Share of all the time as the highest (up) and the lowest (down)'}
        </figcaption>
        <LeaderBars leaders={watch.nearFull ?? watch.leaders} names={names} />
      </figure>
    </div>
  );
}

export const balanceOf = (text: string): number => {
  const value = typedNumber(text);
  return value !== null && value > 0 ? value : 10;
};

/** One watched string: every curve to three decimals, its spread, who leads. */
export function StringView({
  page,
  names,
  balance,
  onBalance,
}: {
  page: StringPage;
  names: readonly string[];
  balance: string;
  onBalance: (text: string) => void;
}) {
  const window = useStringWindow(page.durationS);
  const { shown, range } = window;
  const view = useStringView(page.id, shown);
  const stretch = useStretchWatch(page.id, range);
  const [chosen, setChosen] = useState<ReadonlySet<number>>(new Set());
  const [only, setOnly] = useState(false);
  const [moment, setMoment] = useState<number | null>(null);
  const { holeS } = page.watch;
  const lines = useLines(view.data, names, { chosen, only, holeS });
  const at = view.data && moment !== null ? nearestStretch(view.data, moment) : null;
  // Figures of the stretch that was shown before are none of this one.
  const watch = range === null ? page.watch : stretch.isPlaceholderData ? undefined : stretch.data;
  const pick = (cell: number, on: boolean) =>
    setChosen((old) => {
      const next = new Set(old);
      if (on) next.add(cell);
      else next.delete(cell);
      return next;
    });
  return (
    <>
      <section className="panel mb-4 p-4">
        <Tools
          page={page}
          window={window}
          only={only}
          hasChosen={chosen.size > 0}
          onOnly={setOnly}
        />
        {view.error && <Problem>{view.error.message}</Problem>}
        <div className="grid gap-4 lg:grid-cols-[1fr_21rem]">
          <StringCharts
            page={page}
            names={names}
            window={window}
            view={view.data}
            lines={lines}
            at={at}
            balanceMv={balanceOf(balance)}
            onMoment={setMoment}
          />
          <StringCells
            names={names}
            numbers={page.cells.map(({ cell }) => cell?.number ?? null)}
            nearFull={watch?.nearFull ?? null}
            view={view.data}
            at={at}
            digits={page.decimalsV}
            chosen={chosen}
            onChosen={pick}
          />
        </div>
      </section>
      {stretch.error && range && <Problem>{stretch.error.message}</Problem>}
      {!watch && !stretch.error && (
        <p className="panel p-4 text-quiet" role="status">
          Watching this stretch …
        </p>
      )}
      {watch && <Told watch={watch} names={names} balance={balance} onBalance={onBalance} />}
    </>
  );
}

/** Which stretch is shown, and whether the cells picked out stand alone. */
function Tools({
  page,
  window,
  only,
  hasChosen,
  onOnly,
}: {
  page: StringPage;
  window: ReturnType<typeof useStringWindow>;
  only: boolean;
  hasChosen: boolean;
  onOnly: (on: boolean) => void;
}) {
  const { fulls } = page.watch;
  return (
    <div className="mb-2 flex min-h-11 flex-wrap items-center gap-x-3 gap-y-1">
      {fulls.length > 0 && (
        <Choice
          label="Go to the last minutes before full"
          className="w-80"
          value=""
          onValue={(at) => {
            const { peakS } = fulls[Number(at)]!;
            window.go({
              fromS: Math.max(0, peakS - BEFORE_S),
              toS: Math.min(page.durationS, peakS + AFTER_S),
            });
          }}
        >
          <Option value="">Last minutes before full …</Option>
          {fulls.map(({ peakS, peakV }, i) => (
            <Option key={peakS} value={i}>
              {`${i + 1}. at ${(peakS / 3600).toFixed(2)} h, mean up to ${peakV.toFixed(3)} V`}
            </Option>
          ))}
        </Choice>
      )}
      {window.range && (
        <>
          <Button look="bare" onClick={window.wider}>
            Wider
          </Button>
          <Button look="bare" onClick={window.whole}>
            Whole log
          </Button>
        </>
      )}
      {hasChosen && (
        <Tick checked={only} onChecked={onOnly}>
          only the cells picked out
        </Tick>
      )}
      <p className="ml-auto text-quiet" role="status">
        {window.range
          ? `${formatDuration(window.shown.toS - window.shown.fromS)} of ${formatDuration(page.durationS)}`
          : `all ${formatDuration(page.durationS)}, ${page.rows} rows`}
      </p>
    </div>
  );
}
