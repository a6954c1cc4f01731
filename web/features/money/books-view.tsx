import { centsText } from '@dusk-tally/core/money';
import { formatNumber } from '@dusk-tally/core/units';
import type { LotBooks } from '@dusk-tally/lab/money';
import { ButtonLink } from '@/kit/button';
import { Link } from '@/kit/link';
import { Table } from '@/kit/table';
import { BooksExport } from './books-export';
import { BooksForm } from './books-form';
import { money, Panel, Rows } from './money-parts';
import { Ways } from './ways-out';

/** What the lot cost, and what that is for a unit of it. */
function Cost({ books }: { books: LotBooks }) {
  const { parts, totalCents, units, kept, energy, currency, hasPrice } = books;
  const line = `${formatNumber(100 * kept.line, 0)} %`;
  const partly =
    units.tested < units.cells ? `, by the ${units.tested} of ${units.cells} tested` : '';
  return (
    <Panel title={`What it cost / ${currency}`}>
      {!hasPrice && (
        <p className="text-missed">
          The order names no price yet (Claim, what the order says): below is only what came on top.
        </p>
      )}
      <Rows
        label="What it cost"
        rows={[
          ...parts
            .filter(({ name, cents }) => cents !== 0 || name === 'price')
            .map(({ name, cents }) => [name, money(cents)] as const),
          ['landed', money(totalCents), true],
          [`a cell, of ${units.cells}`, money(units.perCellCents)],
          [
            `a good cell, of ${units.good} from SoH ${line}${partly}`,
            money(units.perGoodCellCents),
          ],
          [`a kWh tested, of ${formatNumber(units.kwhTested, 2)}`, money(units.perKwhTestedCents)],
          [
            `a kWh in good cells, of ${formatNumber(units.kwhGood, 2)}`,
            money(units.perKwhGoodCents),
            true,
          ],
        ]}
      />
      <p className="mt-1 text-[0.85rem] text-quiet">
        Energy of {energy.measured} cells as measured
        {energy.computed > 0 && `, of ${energy.computed} charge times ${energy.nominalV} V`}.
        {books.inHouse &&
          ` In ${books.inHouse.currency}: ${centsText(books.inHouse.totalCents)} landed at ${kept.rate} of ${kept.rateOn}.`}
        {!books.inHouse &&
          currency !== books.houseCurrency &&
          ` Without a day’s rate it counts in no comparison in ${books.houseCurrency}.`}
      </p>
      {books.throughputCents !== null && kept.claimedCycles !== null && (
        <p className="mt-1 text-[0.85rem] text-quiet">
          {(books.throughputCents / 100).toFixed(4)} {currency} a kWh of throughput, if the{' '}
          {kept.claimedCycles} cycles are true: the supplier’s word, nothing tested here.
        </p>
      )}
    </Panel>
  );
}

/** What the cells bring by their grades, and what is left. */
function Value({ books }: { books: LotBooks }) {
  const { values, ungraded, resaleCents, marginCents, currency } = books;
  const { testing, marginAfterTestingCents } = books;
  return (
    <Panel title={`What it brings / ${currency}`}>
      <Rows
        label="What it brings"
        rows={[
          ...values
            .filter(({ cells }) => cells > 0)
            .map(
              ({ grade, cells, priceCents, cents }) =>
                [
                  `${cells} ${grade}${priceCents === null ? '' : ` at ${money(priceCents)}`}`,
                  priceCents === null ? 'no price yet' : money(cents),
                ] as const,
            ),
          ['together', money(resaleCents), true],
          ['over what it cost', money(marginCents), true],
          ...(testing.totalCents > 0
            ? ([
                [`bench, ${formatNumber(testing.benchHours, 0)} h`, money(-testing.benchCents)],
                [
                  `electricity, ${formatNumber(testing.wallKwh, 1)} kWh from the wall`,
                  money(-testing.electricityCents),
                ],
                ['after testing', money(marginAfterTestingCents), true],
              ] as const)
            : []),
        ]}
      />
      {ungraded > 0 && (
        <p className="mt-1 text-[0.85rem] text-quiet">
          {ungraded} of {books.lines.length}{' '}
          {ungraded === 1 ? 'has no grade yet and counts' : 'have no grade yet and count'} as
          bringing nothing.
        </p>
      )}
    </Panel>
  );
}

/** What the cells lack against the claim, and what that is worth. */
function Lacking({ books }: { books: LotBooks }) {
  const { shortfall, centsPerClaimedAh, currency } = books;
  if (!shortfall || centsPerClaimedAh === null)
    return (
      <Panel title="What it lacks">
        <p className="text-quiet">
          A claimed capacity and a price say what an Ah was sold for; one of them is missing.
        </p>
      </Panel>
    );
  const { cells, ah, cents, lowCents, highCents, upperAh, upperCents } = shortfall;
  return (
    <Panel title={`What it lacks / ${currency}`}>
      <Rows
        label="What it lacks"
        rows={[
          ['an Ah as claimed', (centsPerClaimedAh / 100).toFixed(5)],
          [
            `${cells} of ${books.units.tested} tested judged not met, together`,
            `${formatNumber(ah, 2)} Ah`,
          ],
          ['worth', money(cents), true],
          ['by the cells’ uncertainty, all together', `${money(lowCents)} to ${money(highCents)}`],
          [
            `all cells below the claim, inconclusive included, with U: ${formatNumber(upperAh, 2)} Ah`,
            money(upperCents),
          ],
        ]}
      />
    </Panel>
  );
}

function Cells({ books, code }: { books: LotBooks; code: string }) {
  const { lines, currency } = books;
  return (
    <section className="panel mt-4 max-h-[32rem] overflow-y-auto p-4" aria-label="Cell by cell">
      <div className="flex flex-wrap items-center justify-between gap-2">
        <h2 className="font-semibold">Cell by cell</h2>
        <BooksExport code={code} books={books} />
      </div>
      <Table label="Books, cell by cell">
        <thead>
          <tr>
            <th>Cell</th>
            <th>Grade</th>
            <th className="num">Capacity / Ah</th>
            <th className="num">SoH / %</th>
            <th className="num">Energy / Wh</th>
            <th className="num">Cost / {currency}</th>
            <th className="num">Brings / {currency}</th>
          </tr>
        </thead>
        <tbody>
          {lines.map((line) => (
            <tr key={line.cellId}>
              <td>
                <Link href={`/cells/${line.number}`} className="hover:underline">
                  {line.number}
                </Link>
              </td>
              <td>{line.grade ?? <span className="text-quiet">waiting</span>}</td>
              <td className="num">
                {line.capacityAh === null ? '–' : formatNumber(line.capacityAh, 2)}
              </td>
              <td className="num">
                {line.stateOfHealth === null ? '–' : formatNumber(100 * line.stateOfHealth, 1)}
              </td>
              <td className="num">{line.wh === null ? '–' : formatNumber(line.wh, 1)}</td>
              <td className="num">{money(line.costCents)}</td>
              <td className="num">{money(line.bringsCents)}</td>
            </tr>
          ))}
        </tbody>
      </Table>
    </section>
  );
}

/** The books of a lot. */
export function BooksView({
  lotId,
  code,
  books,
}: {
  lotId: number;
  code: string;
  books: LotBooks;
}) {
  return (
    <>
      <p className="mb-3 flex justify-end">
        <ButtonLink href={`/lots/${code}/money/dispute`}>Dispute with the supplier</ButtonLink>
      </p>
      {books.held.length > 0 && (
        <p className="panel mb-4 border-l-4 border-doubt p-3">
          Held, and in no figure here: {books.held.slice(0, 8).join(', ')}
          {books.held.length > 8 && ` and ${books.held.length - 8} more`}.
        </p>
      )}
      <div className="grid items-start gap-4 lg:grid-cols-[1fr_1fr_25rem]">
        <div className="space-y-4">
          <Cost books={books} />
          <Lacking books={books} />
        </div>
        <div className="space-y-4">
          <Value books={books} />
          <Ways books={books} />
        </div>
        <div className="panel p-4">
          <BooksForm key={books.kept.version} lotId={lotId} books={books} />
        </div>
      </div>
      <Cells books={books} code={code} />
    </>
  );
}
