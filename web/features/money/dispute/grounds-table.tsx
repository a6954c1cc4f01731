import { type Cents, carried, centsText, type Ground, groundsCents } from '@dusk-tally/core/money';
import { Table } from '@/kit/table';
import { GROUND_WORDS } from './words';

/** What an amount is made of, line by line, adding up to it. */
export function GroundsTable({
  grounds,
  askCents,
  currency,
}: {
  grounds: readonly Ground[];
  /** Null as long as no amount is given: then the grounds alone. */
  askCents: Cents | null;
  currency: string;
}) {
  const ask = askCents ?? groundsCents(grounds);
  const lines = carried(grounds, ask, 'told');
  if (lines.length === 0)
    return (
      <p className="text-[0.87rem] text-quiet">Nothing is known yet that carries an amount.</p>
    );
  return (
    <Table label="What the amount is made of">
      <tbody>
        {lines.map(({ kind, cells, cents }) => (
          <tr key={kind} className={kind === 'told' ? 'text-doubt' : ''}>
            <td>
              {cells !== null && `${cells} ${cells === 1 ? 'cell' : 'cells'}: `}
              {GROUND_WORDS[kind]}
            </td>
            <td className="num whitespace-nowrap">{centsText(cents)}</td>
          </tr>
        ))}
        <tr className="font-semibold">
          <td>Together / {currency}</td>
          <td className="num whitespace-nowrap">{centsText(ask)}</td>
        </tr>
      </tbody>
    </Table>
  );
}
