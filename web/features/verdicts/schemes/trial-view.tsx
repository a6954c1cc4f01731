'use client';

import { centsText } from '@dusk-tally/core/money';
import { schemeTrial } from '@dusk-tally/lab/inputs';
import type { SchemeTrial } from '@dusk-tally/lab/verdicts';
import { useFetched } from '@/lib/use-fetched';
import { Link } from '@/kit/link';
import { useWatch } from 'react-hook-form';
import { Fold } from '@/kit/fold';
import { Table } from '@/kit/table';
import { trySchemeAct } from './acts';
import { FlowPicture } from './flow-picture';
import { useSettled } from './use-settled';

const cells = (n: number): string => (n === 1 ? '1 cell' : `${n} cells`);

/** What all moved cells bring more, where every grade they come from or go to has a price. */
function gainWords(trial: SchemeTrial): string {
  const byCurrency = new Map<string, number>();
  for (const { currency, gainCents } of trial.lots)
    if (gainCents !== null) byCurrency.set(currency, (byCurrency.get(currency) ?? 0) + gainCents);
  const unpriced = trial.lots.filter(({ gainCents }) => gainCents === null).length;
  const gains = [...byCurrency].map(
    ([currency, cents]) =>
      `${cents < 0 ? 'loses' : 'gains'} ${centsText(Math.abs(cents))} ${currency}`,
  );
  if (unpriced > 0)
    gains.push(`${unpriced} ${unpriced === 1 ? 'lot has' : 'lots have'} no price for a grade`);
  return gains.join('; ');
}

function Lots({ lots }: { lots: SchemeTrial['lots'] }) {
  return (
    <Table label="Lots something moves in">
      <thead>
        <tr>
          <th>Lot</th>
          <th className="num">Moved</th>
          <th className="num">Value</th>
        </tr>
      </thead>
      <tbody>
        {lots.map(({ code, title, cells: of, moved, currency, gainCents }) => (
          <tr key={code}>
            <td>
              {code} <span className="text-quiet">{title}</span>
            </td>
            <td className="num whitespace-nowrap">
              {moved} of {of}
            </td>
            <td className="num whitespace-nowrap">
              {gainCents === null
                ? 'no price'
                : `${gainCents > 0 ? '+' : ''}${centsText(gainCents)} ${currency}`}
            </td>
          </tr>
        ))}
      </tbody>
    </Table>
  );
}

function Moves({ trial }: { trial: SchemeTrial }) {
  const { moves, moved } = trial;
  return (
    <Fold
      title={moves.length < moved ? `The first ${moves.length} of ${moved} cells` : 'Cell by cell'}
    >
      <div className="max-h-80 overflow-y-auto">
        <Table label="Cells that move">
          <tbody>
            {moves.map(({ cellId, cell, from, to, why }) => (
              <tr key={cellId}>
                <td className="whitespace-nowrap">
                  <Link href={`/cells/${cell}`} className="hover:underline">
                    {cell}
                  </Link>
                </td>
                <td className="whitespace-nowrap">
                  {from ?? 'waiting'} → {to ?? 'waiting'}
                </td>
                <td className="text-quiet">{why}</td>
              </tr>
            ))}
          </tbody>
        </Table>
      </div>
    </Fold>
  );
}

/** What the scheme typed so far would do: as a picture, by lot, and cell by cell. */
export function TrialView({ scope }: { scope: string }) {
  const typed: unknown = useWatch({ name: 'scheme' });
  const settled = useSettled(JSON.stringify(typed), 350);
  const next = schemeTrial.safeParse({ scope, scheme: JSON.parse(settled) as unknown });
  const { data } = useFetched({
    queryKey: ['try-scheme', scope, settled],
    enabled: next.success,
    queryFn: () => trySchemeAct(next.data!),
    // What was shown stays until the next answer is there.
    placeholderData: (before) => before,
  });
  const trial = next.success && data?.ok ? data.data : null;
  return (
    <section className="panel p-4" aria-label="What it would do">
      <h2 className="font-semibold">What it would do</h2>
      <div role="status">
        {!next.success && (
          <p className="text-doubt">
            {next.error.issues[0]?.message ?? 'Something is missing.'} It is tried once it is whole.
          </p>
        )}
        {data && !data.ok && <p className="text-missed">{data.message}</p>}
        {next.success && !data && <p className="text-quiet">Looking …</p>}
        {trial && (
          <p>
            {trial.moved === 0
              ? `No cell of ${trial.cells} would be of another grade.`
              : `${cells(trial.moved)} of ${trial.cells} would be of another grade: ${gainWords(trial)}.`}
          </p>
        )}
      </div>
      {trial && trial.cells > 0 && <FlowPicture flows={trial.flows} />}
      {trial && trial.moved > 0 && (
        <>
          <Lots lots={trial.lots} />
          <Moves trial={trial} />
        </>
      )}
    </section>
  );
}
