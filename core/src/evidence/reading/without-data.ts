import { LogRefusal } from './refusal';
import { recogniseColumns } from './roles';
import { DELIMITERS, type SampledLine, splitLine } from './sampled-lines';

/** Refuses a file that holds no rows, with what it seems to be instead. */
export function refuseWithoutData(lines: SampledLine[]): never {
  const filled = lines.filter((line) => line.text.trim() !== '');
  if (filled.length === 0) {
    throw new LogRefusal({
      code: 'empty-file',
      message: 'The file holds only blank lines. Expected a header row and rows of readings.',
    });
  }
  const last = filled[filled.length - 1]!;
  const names = DELIMITERS.map((d) => splitLine(last.text, d, d === ' ')).sort(
    (a, b) => b.length - a.length,
  )[0]!;
  const known = recogniseColumns(names, null).filter((column) => column.role !== 'ignored');
  throw new LogRefusal({
    code: 'no-data-rows',
    message:
      known.length >= 2
        ? `Row ${last.row} is a header; no data rows follow it. Expected rows of readings from row ${last.row + 1} on.`
        : `Row ${filled[0]!.row}: no table of numbers found. Expected a header row and rows of time, voltage and current.`,
    row: last.row,
  });
}
