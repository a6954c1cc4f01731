'use client';

import type { figureTrail } from '@dusk-tally/lab/verdicts';
import {
  bestImprovement,
  COVERAGE_FACTOR,
  formatDuration,
  formatWithUncertainty,
} from '@dusk-tally/core/units';
import { Link } from '@/kit/link';
import type { ReactNode } from 'react';
import { LabMoment } from '@/kit/lab-time';
import { Table } from '@/kit/table';

/** A figure’s trail as the browser gets it. */
export type Trail = Omit<Awaited<ReturnType<typeof figureTrail>>, 'at'> & { at: string | null };

function Part({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section className="mt-5">
      <h3 className="mb-1.5 text-[0.82rem] font-semibold text-quiet">{title}</h3>
      {children}
    </section>
  );
}

/** The budget, largest first, each with a bar in proportion to its variance. */
function Budget({ figure }: { figure: Trail['figure'] }) {
  const total = figure.standardUncertainty;
  return (
    <Table className="w-full text-[0.87rem]">
      <thead className="sr-only">
        <tr>
          <th>Component</th>
          <th>Standard uncertainty</th>
          <th>Share of the variance</th>
        </tr>
      </thead>
      <tbody>
        {figure.budget.map((part) => {
          const share = total !== null && total > 0 ? (part.standardUncertainty / total) ** 2 : 0;
          return (
            <tr key={part.name} title={part.basis} className="align-top">
              <td className="py-1 pr-2">
                {part.name}
                <span className="block text-[0.78rem] text-quiet">{part.basis}</span>
              </td>
              <td className="py-1 pr-2 text-right tabular-nums">
                {part.standardUncertainty.toPrecision(2)}
              </td>
              <td className="w-24 py-1">
                <div className="mt-1 h-2.5 bg-wash">
                  <div className="h-full bg-curve" style={{ width: `${100 * share}%` }} />
                </div>
                <span className="text-[0.78rem] text-quiet">{(100 * share).toFixed(0)} %</span>
              </td>
            </tr>
          );
        })}
      </tbody>
    </Table>
  );
}

/** Everything that defends a figure. */
export function TrailContent({ trail }: { trail: Trail }) {
  const { figure } = trail;
  const gain = bestImprovement(figure);
  const U =
    figure.standardUncertainty === null ? null : COVERAGE_FACTOR * figure.standardUncertainty;
  const shown = formatWithUncertainty(figure.value, U);
  return (
    <>
      <p className="mt-1 text-2xl tabular-nums" data-testid="trail-value">
        {figure.bound === 'atLeast' && <span className="text-quiet">at least </span>}
        {shown.value}
        {shown.uncertainty && <span className="text-quiet"> ± {shown.uncertainty}</span>}{' '}
        {figure.unit === '1' ? '' : figure.unit}
      </p>
      <p className="text-[0.87rem] text-quiet">Expanded uncertainty with k = {COVERAGE_FACTOR}.</p>
      {figure.findings.length > 0 && (
        <Part title="Noticed on the way">
          {figure.findings.map((finding) => (
            <p key={finding.text} className="border-l-4 border-doubt pl-2">
              {finding.text}
            </p>
          ))}
        </Part>
      )}
      <Part title="Steps">
        <ol className="list-decimal space-y-1 pl-5">
          {figure.steps.map((step) => (
            <li key={step}>{step}</li>
          ))}
        </ol>
      </Part>
      <Part title="From">
        <dl className="grid grid-cols-[auto_1fr] gap-x-4 gap-y-0.5">
          {figure.inputs.map((input) => (
            <div key={input.name} className="contents">
              <dt className="text-quiet">{input.name}</dt>
              <dd className="tabular-nums">
                {typeof input.value === 'number' ? Number(input.value.toPrecision(7)) : input.value}{' '}
                {input.unit}
              </dd>
            </div>
          ))}
          {figure.span && (
            <>
              <dt className="text-quiet">part of the log</dt>
              <dd>
                {figure.span.fromS.toFixed(1)} s to {figure.span.toS.toFixed(1)} s (
                {formatDuration(figure.span.toS - figure.span.fromS)})
              </dd>
            </>
          )}
          {trail.file && (
            <>
              <dt className="text-quiet">file</dt>
              <dd className="break-all">
                {trail.file.name}
                <span className="block text-[0.75rem] text-quiet">SHA-256 {trail.file.sha256}</span>
              </dd>
            </>
          )}
          {trail.keptDespite && (
            <>
              <dt className="text-quiet">asked, and kept</dt>
              <dd>{trail.keptDespite}</dd>
            </>
          )}
        </dl>
      </Part>
      <Part title="Uncertainty budget">
        <Budget figure={figure} />
        {gain && (
          <p className="mt-1.5">
            What would help most: {gain.advice}. Without “{gain.name}” U would be{' '}
            {gain.expandedWithout.toPrecision(2)} {figure.unit === '1' ? '' : figure.unit}.
          </p>
        )}
      </Part>
      <Part title="Who, when, with what">
        <p>
          {trail.person}
          {trail.at && (
            <>
              , <LabMoment at={trail.at} />
            </>
          )}
        </p>
        <p>
          {trail.instrument
            ? `${trail.instrument.name}${trail.instrument.serial ? ` (${trail.instrument.serial})` : ''}${trail.instrument.calibratedOn ? `, calibrated ${trail.instrument.calibratedOn}` : ''}`
            : 'Instrument not described; house default accuracy used.'}
        </p>
        {trail.runId !== null && (
          <p>
            <Link href={`/runs/${trail.runId}`} className="underline">
              The run
            </Link>
            {trail.channel && ` on ${trail.channel}`}
          </p>
        )}
        <p className="text-quiet">
          Method {figure.method.name}, version {figure.method.version}
        </p>
        <p className="break-all text-[0.75rem] text-quiet">Inputs {trail.inputHash}</p>
      </Part>
    </>
  );
}
