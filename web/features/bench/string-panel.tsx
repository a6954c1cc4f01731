import type { RunPageView } from '@dusk-tally/lab/verdicts';
import { formatNumber } from '@dusk-tally/core/units';
import type { ReactNode } from 'react';
import { FigureText } from '@/kit/figure-text';
import { Table } from '@/kit/table';

/** ΔV / ΔI of every cell of a string between two loads. */
export function StringPanel({
  string,
  names = [],
  children,
}: {
  string: NonNullable<RunPageView['run']['summary']['string']>;
  /** Numbers of the cells, in order, where they are known. */
  names?: readonly string[];
  children?: ReactNode;
}) {
  const bad = string.cells.flatMap(({ standsOut }, i) => (standsOut ? [i + 1] : []));
  return (
    <section className="panel p-4" aria-label="The string between two loads">
      <h2 className="font-semibold">The string between two loads</h2>
      <p className="text-quiet">
        ΔV / ΔI from {formatNumber(string.lowA, 2)} A to {formatNumber(string.highA, 2)} A at{' '}
        {formatNumber(string.atS, 0)} s; each figure holds the joint unless voltage was read on the
        terminals.
      </p>
      <Table className="mt-1 w-full">
        <thead>
          <tr>
            <th>Cell of the string</th>
            <th className="num">Resistance, U (k = 2)</th>
            <th className="num">z</th>
          </tr>
        </thead>
        <tbody>
          {string.cells.map((cell, i) => (
            <tr key={i} className={cell.standsOut ? 'text-doubt' : undefined}>
              <td>
                {i + 1}
                {names[i] && <span className="text-quiet"> {names[i]}</span>}
                {cell.standsOut && ' stands out'}
              </td>
              <td className="num">
                <FigureText value={cell.mohm} U={cell.expandedMohm} unit="mΩ" bound="exact" />
              </td>
              <td className="num">{cell.z === null ? '–' : formatNumber(cell.z, 1)}</td>
            </tr>
          ))}
        </tbody>
      </Table>
      {bad.length > 0 && (
        <p className="mt-1 border-l-4 border-doubt pl-2">
          {bad.length > 1 && bad.some((n) => bad.includes(n + 1))
            ? `Cells ${bad.join(', ')} stand out and are neighbours: they share a bar. Suspect the joint, re-tighten and repeat.`
            : `Cell ${bad.join(', ')}: re-tighten its joints and repeat before blaming it.`}
        </p>
      )}
      {children}
    </section>
  );
}
