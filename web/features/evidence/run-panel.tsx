import { formatDuration } from '@dusk-tally/core/units';
import type { HoldRule } from '@dusk-tally/core/verdicts';
import type { RunView } from '@dusk-tally/lab/verdicts';
import { Link } from '@/kit/link';
import type { ReactNode } from 'react';
import { FigureText } from '@/kit/figure-text';
import { TrailLink } from '@/kit/trail-link';
import { holesOf } from './holes-of';
import { TraceChart } from './trace-chart';
import { QUANTITY_WORDS } from '@/kit/quantity-words';
import { LabDay } from '@/kit/lab-time';
import { Table } from '@/kit/table';

const ORDER = [
  'capacityAtClaim',
  'capacity',
  'energy',
  'meanVoltage',
  'dcResistance1s',
  'dcResistance10s',
  'dcResistance30s',
  'dcResistanceTwoStep',
];
const REASONS = [
  ['r1s', 'dcResistance1s'],
  ['r10s', 'dcResistance10s'],
  ['r30s', 'dcResistance30s'],
] as const;

/** One run of a cell: its curve, figures, sections and findings. */
export function RunPanel({
  run,
  counts,
  held,
  acts,
}: {
  run: RunView;
  counts: boolean;
  /** Rules that hold its result. */
  held: readonly HoldRule[];
  /** What can be done with it. */
  acts: ReactNode;
}) {
  const { summary } = run;
  const figures = [...run.figures].sort(
    (a, b) => ORDER.indexOf(a.quantity) - ORDER.indexOf(b.quantity),
  );
  const span =
    summary.loadOnS !== null && summary.endS !== null
      ? { fromS: summary.loadOnS, toS: summary.endS }
      : null;
  return (
    <section className="panel p-4" aria-label={`Run from ${run.file.name}`}>
      <div className="flex flex-wrap items-baseline justify-between gap-2">
        <h2 className="font-semibold">
          <Link href={`/runs/${run.id}`} className="hover:underline">
            {run.file.name}
          </Link>
        </h2>
        <p className="text-[0.87rem] text-quiet">
          {run.rows} rows over {formatDuration(run.durationS)},{' '}
          {run.instrument?.name ?? 'tester not described'}
          {run.leadMohm ? `, two-wire with ${run.leadMohm} mΩ of leads` : ''}, taken in by{' '}
          {run.person} on <LabDay at={run.createdAt} />
          {held.length > 0 ? '; held' : !counts && '; another result counts'}
        </p>
      </div>
      {acts}
      {summary.findings.length > 0 && (
        <ul className="mt-2 space-y-1">
          {summary.findings.map((finding) => (
            <li key={finding.text} className="border-l-4 border-doubt pl-2">
              {finding.text}
            </li>
          ))}
        </ul>
      )}
      <div className="mt-3 grid gap-5 xl:grid-cols-[minmax(0,1fr)_25rem]">
        <TraceChart
          runId={run.id}
          name={run.file.name.replace(/\.\w+$/, '')}
          span={span}
          cutoffV={summary.cutoffV}
          durationS={run.durationS}
          holes={holesOf(summary)}
        />
        <div>
          <Table>
            <thead>
              <tr>
                <th>Figure</th>
                <th className="num">Value, U (k = 2)</th>
              </tr>
            </thead>
            <tbody>
              {figures.map((figure) => (
                <tr key={figure.id}>
                  <td>
                    {QUANTITY_WORDS[figure.quantity]}
                    {figure.cutoffV !== null && figure.quantity === 'capacity' && (
                      <span className="text-quiet"> to {figure.cutoffV} V</span>
                    )}
                  </td>
                  <td className="num">
                    <TrailLink figureId={figure.id}>
                      <FigureText
                        value={figure.value}
                        U={
                          figure.standardUncertainty === null
                            ? null
                            : 2 * figure.standardUncertainty
                        }
                        unit={figure.unit}
                        bound={figure.bound}
                      />
                    </TrailLink>
                  </td>
                </tr>
              ))}
              {REASONS.filter(
                ([key, quantity]) =>
                  summary.refusedResistances[key] &&
                  !figures.some((figure) => figure.quantity === quantity),
              ).map(([key, quantity]) => (
                <tr key={key}>
                  <td className="whitespace-nowrap">{QUANTITY_WORDS[quantity]}</td>
                  <td className="text-right text-[0.82rem] text-quiet">
                    {summary.refusedResistances[key]}
                  </td>
                </tr>
              ))}
            </tbody>
          </Table>
          <p className="mt-2 text-[0.87rem] text-quiet">
            {summary.sections
              .slice(0, 8)
              .map(
                (section) =>
                  `${section.kind} ${formatDuration(section.toS - section.fromS)}${section.ah > 0 ? ` (${section.ah.toFixed(3)} Ah)` : ''}`,
              )
              .join(', ')}
            .
            {summary.meanTemperatureC !== null &&
              ` Mean temperature ${summary.meanTemperatureC.toFixed(1)} °C, highest ${summary.maxTemperatureC!.toFixed(1)} °C.`}
          </p>
        </div>
      </div>
    </section>
  );
}
