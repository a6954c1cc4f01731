import type { CellItem } from '@dusk-tally/lab/verdicts';
import { expandedUncertainty } from '@dusk-tally/core/units';
import { FigureText } from '@/kit/figure-text';
import { TrailLink } from '@/kit/trail-link';
import { VerdictWord } from '@/kit/verdict-word';
import { Table } from '@/kit/table';

/** What stands in the way, or what it was told by. */
function remarksOf({ assessed }: CellItem): string[] {
  switch (assessed.state) {
    case 'waitingFor':
      return [`Waiting for ${assessed.what.join(', ')}.`];
    case 'contradicted':
      return [`By ${assessed.by.join(', ')}.`];
    case 'held':
      return assessed.why;
    case 'described':
      return ['Stated as typical: the lot is judged, not the cell.', ...assessed.differences];
    default:
      return assessed.differences;
  }
}

/** Everything else that was claimed of a cell, and where it stands. */
export function ClaimedItems({ items }: { items: CellItem[] }) {
  const others = items.filter(
    ({ assessed: { item } }) => item !== 'capacity' && item !== 'acResistance',
  );
  if (others.length === 0) return null;
  return (
    <section className="panel overflow-x-auto p-3.5" data-testid="claimed-items">
      <h2 className="font-semibold">Also claimed</h2>
      <Table className="mt-1 w-full">
        <thead className="sr-only">
          <tr>
            <th>Claim</th>
            <th>Measured</th>
            <th>Where it stands</th>
          </tr>
        </thead>
        <tbody>
          {others.map((item) => {
            const { estimate, figureId, state } = item.assessed;
            return (
              <tr key={item.assessed.item} className="align-top">
                <th scope="row" className="font-medium">
                  {item.words}
                  <span className="block text-[0.82rem] font-normal text-quiet">
                    {item.claimed}
                  </span>
                </th>
                <td className="num">
                  <TrailLink figureId={figureId}>
                    <FigureText
                      value={estimate?.value ?? null}
                      U={estimate && expandedUncertainty(estimate)}
                      unit={item.unit ?? undefined}
                      bound={estimate?.bound}
                      decimals={estimate?.standardUncertainty === null ? 1 : undefined}
                    />
                  </TrailLink>
                </td>
                <td>
                  <VerdictWord verdict={state} />
                  {remarksOf(item).map((text) => (
                    <span key={text} className="block text-[0.82rem] text-quiet">
                      {text}
                    </span>
                  ))}
                </td>
              </tr>
            );
          })}
        </tbody>
      </Table>
    </section>
  );
}
