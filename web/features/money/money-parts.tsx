import { type Cents, centsText } from '@dusk-tally/core/money';
import type { ReactNode } from 'react';
import { Table } from '@/kit/table';

/** An amount, or that none is known. */
export const money = (cents: Cents | null): string => (cents === null ? '–' : centsText(cents));

/** Figures under one heading. */
export function Panel({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section className="panel p-4" aria-label={title}>
      <h2 className="mb-1 font-semibold">{title}</h2>
      {children}
    </section>
  );
}

/** What something is, and its figure, row by row. */
export function Rows({
  label,
  rows,
}: {
  label: string;
  rows: readonly (readonly [what: ReactNode, figure: ReactNode, strong?: boolean])[];
}) {
  return (
    <Table label={label}>
      <tbody>
        {rows.map(([what, figure, strong], i) => (
          <tr key={i} className={strong ? 'font-semibold' : ''}>
            <td>{what}</td>
            <td className="num whitespace-nowrap">{figure}</td>
          </tr>
        ))}
      </tbody>
    </Table>
  );
}
