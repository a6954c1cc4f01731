import type { DataColumn, Plain } from './columns';

/** Heads and rows as they stand, each with what goes with it. */
export function plainRows<Row>(
  columns: readonly DataColumn<Row>[],
  rows: readonly Row[],
): { heads: string[]; body: Plain[][] } {
  const shown = new Set(columns.map(({ head }) => head));
  const whole = columns.flatMap(({ head, plain, beside = [] }) => [
    { head, plain },
    ...beside.filter((one) => !shown.has(one.head)),
  ]);
  return {
    heads: whole.map(({ head }) => head),
    body: rows.map((row) => whole.map(({ plain }) => plain(row))),
  };
}

const oneLine = (value: Plain): string =>
  value === null ? '' : String(value).replace(/[\t\r\n]+/g, ' ');

/** For pasting into a spreadsheet. */
export const asTsv = (heads: readonly string[], body: readonly Plain[][]): string =>
  [heads, ...body].map((line) => line.map(oneLine).join('\t')).join('\n');

/** RFC 4180, with a mark that the text is UTF-8; a cell that a spreadsheet would run as a formula is text. */
export function asCsv(heads: readonly string[], body: readonly Plain[][]): string {
  const cell = (value: Plain): string => {
    if (typeof value === 'number') return String(value);
    const text = oneLine(value);
    const safe = /^[=+\-@]/.test(text) ? `'${text}` : text;
    return /[",]/.test(safe) ? `"${safe.replaceAll('"', '""')}"` : safe;
  };
  return `\ufeff${[heads, ...body].map((line) => line.map(cell).join(',')).join('\r\n')}\r\n`;
}

/** A workbook of one sheet: numbers stay numbers, heads stay in sight. */
export async function asXlsx(
  title: string,
  heads: readonly string[],
  body: readonly Plain[][],
): Promise<Blob> {
  const { Workbook } = await import('exceljs');
  const book = new Workbook();
  const sheet = book.addWorksheet(title.slice(0, 31).replace(/[\\/?*[\]:]/g, ' '), {
    views: [{ state: 'frozen', ySplit: 1 }],
  });
  sheet.addRow([...heads]).font = { bold: true };
  for (const line of body) sheet.addRow(line);
  const bytes = await book.xlsx.writeBuffer();
  return new Blob([bytes], {
    type: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
  });
}
