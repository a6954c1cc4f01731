import type { LotBooks } from '@dusk-tally/lab/money';
import { boundWord } from '@/kit/bound-word';

type Line = (string | number | null)[];

/** Amounts go over as numbers of the currency. */
const amount = (cents: number | null): number | null => (cents === null ? null : cents / 100);

/** Sheets of a lot’s books: what it cost, brings and lacks, and the same cell by cell. */
export function booksSheets(code: string, books: LotBooks): { name: string; lines: Line[] }[] {
  const { parts, totalCents, units, values, shortfall, remedies, testing, lines, hasPrice } = books;
  // An unknown price is blank: what came on top of it is not what the lot cost.
  const cost = (cents: number | null) => (hasPrice ? amount(cents) : null);
  const summary: Line[] = [
    [`Books of ${code}`, books.currency],
    [],
    ['What it cost'],
    ...parts.map(({ name, cents }): Line => [
      name,
      hasPrice || name !== 'price' ? amount(cents) : null,
    ]),
    ['landed', cost(totalCents)],
    ['a cell', cost(units.perCellCents)],
    ['a good cell', cost(units.perGoodCellCents)],
    ['a kWh tested', cost(units.perKwhTestedCents)],
    ['a kWh in good cells', cost(units.perKwhGoodCents)],
    ['bench hours', testing.benchHours, amount(testing.benchCents)],
    ['electricity / kWh', testing.wallKwh, amount(testing.electricityCents)],
    [],
    ['What it brings'],
    ...values.map(({ grade, cells, priceCents, cents }): Line => [
      grade,
      cells,
      amount(priceCents),
      priceCents === null ? null : amount(cents),
    ]),
    ['together', null, null, amount(books.resaleCents)],
    ['over what it cost', null, null, amount(books.marginCents)],
    ['after testing', null, null, amount(books.marginAfterTestingCents)],
  ];
  if (shortfall)
    summary.push(
      [],
      ['What it lacks / Ah', shortfall.ah],
      ['worth', amount(shortfall.cents)],
      ['at least', amount(shortfall.lowCents)],
      ['at most', amount(shortfall.highCents)],
      ['all cells below the claim, with U', amount(shortfall.upperCents)],
    );
  if (remedies)
    summary.push(
      [],
      ['Ways out, left in hand'],
      ...remedies.options.map(({ kind, inHandCents, struckOut }): Line => [
        kind,
        amount(inHandCents),
        struckOut,
      ]),
      ['to ask for', amount(remedies.askCents)],
    );
  return [
    { name: 'Books', lines: summary },
    {
      name: 'Cells',
      lines: [
        [
          'Cell',
          'Grade',
          'Capacity / Ah',
          'U of capacity / Ah',
          'Capacity is',
          'SoH',
          'Energy / Wh',
          'Cost',
          'Brings',
        ],
        ...lines.map((line): Line => [
          line.number,
          line.grade,
          line.capacityAh,
          line.capacityU,
          line.capacityAh === null ? null : boundWord(line.bound),
          line.stateOfHealth,
          line.wh,
          // Without a price nobody knows what it cost.
          hasPrice ? amount(line.costCents) : null,
          amount(line.bringsCents),
        ]),
      ],
    },
  ];
}

/** The same as a workbook; numbers stay numbers. */
export async function booksWorkbook(code: string, books: LotBooks): Promise<Blob> {
  const { Workbook } = await import('exceljs');
  const book = new Workbook();
  for (const { name, lines } of booksSheets(code, books)) {
    const sheet = book.addWorksheet(name);
    for (const line of lines) sheet.addRow(line);
    sheet.getRow(1).font = { bold: true };
    sheet.getColumn(1).width = 28;
  }
  return new Blob([await book.xlsx.writeBuffer()], {
    type: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
  });
}
