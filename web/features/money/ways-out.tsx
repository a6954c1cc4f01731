import type { LotBooks } from '@dusk-tally/lab/money';
import { Table } from '@/kit/table';
import { money, Panel } from './money-parts';
import { paybackWords, returnRiskWords } from './ways-words';

const WAYS = {
  return: 'Return it',
  partialRefund: 'Keep it, with the partial refund',
  keep: 'Keep it, without a refund',
  replace: 'Have it replaced',
};

/** Days until the money of a way out is there; null where nobody said, or there is none to wait for. */
const whenOf = (kind: keyof typeof WAYS, kept: LotBooks['kept']): number | null =>
  kind === 'return' ? kept.returnDays : kind === 'partialRefund' ? kept.partialDays : null;

/** The ways out side by side, and what to ask for. */
export function Ways({ books }: { books: LotBooks }) {
  if (!books.remedies)
    return (
      <Panel title="What each way leaves in hand">
        <p className="text-quiet">
          {books.units.tested === 0
            ? 'No cell is tested yet: nothing is known that could be asked for.'
            : books.resaleCents === null
              ? 'Say what a cell of each grade brings; until then nobody knows what keeping them leaves.'
              : 'Neither the order’s price nor a refund is known: nobody knows what returning leaves.'}
        </p>
      </Panel>
    );
  const { options, breakEvenCents, breakEvenLeastCents, returnNeedsChance, askCents } =
    books.remedies;
  const best = Math.max(...options.map(({ inHandCents }) => inHandCents ?? -Infinity));
  return (
    <Panel title={`What each way leaves in hand / ${books.currency}`}>
      <Table label="Ways out">
        <tbody>
          {options.map(({ kind, inHandCents, struckOut }) => (
            <tr key={kind} className={inHandCents === best ? 'font-semibold' : ''}>
              <td>
                {struckOut ? <s>{WAYS[kind]}</s> : WAYS[kind]}
                {!struckOut && whenOf(kind, books.kept) !== null && (
                  <span className="block text-[0.85rem] font-normal text-quiet">
                    the money after about {whenOf(kind, books.kept)} days
                  </span>
                )}
                {struckOut && <span className="block text-[0.85rem] text-doubt">{struckOut}</span>}
              </td>
              <td className="num whitespace-nowrap">{money(inHandCents)}</td>
            </tr>
          ))}
        </tbody>
      </Table>
      <p className="mt-2">
        {breakEvenCents === null
          ? 'It cannot go back, so no refund makes returning better.'
          : breakEvenCents <= 0
            ? 'Keeping it is better than returning even without a refund.'
            : `Below a refund of ${money(breakEvenCents)} returning is better.`}{' '}
        <strong className="font-semibold">To ask for: {money(askCents)}.</strong>
      </p>
      {returnNeedsChance !== null && (
        <p className="mt-1 text-[0.87rem] text-quiet">
          What returning risks: {returnRiskWords(returnNeedsChance)} {paybackWords(books.payback)}
        </p>
      )}
      {books.ungraded > 0 && (
        <p className="mt-1 text-doubt">
          {books.ungraded} of {books.lines.length} cells have no grade yet: keeping leaves at least
          what is told.{' '}
          {breakEvenLeastCents !== null && breakEvenLeastCents > 0
            ? `Were all of them of the best grade, returning would be better below ${money(breakEvenLeastCents)}: that much is proposed by.`
            : 'They may bring enough that keeping is better without a refund: only what is lacking for sure is proposed to ask for.'}
        </p>
      )}
    </Panel>
  );
}
