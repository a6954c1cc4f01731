'use client';

import type { StringWatch, ThinnedString } from '@dusk-tally/core/evidence';
import { Link } from '@/kit/link';
import { Table } from '@/kit/table';
import { Tick } from '@/kit/tick';
import { readingAt } from './string-lines';

const share = (value: number) => `${(100 * value).toFixed(value > 0 && value < 0.005 ? 1 : 0)} %`;

/** The cells of a string: which are picked out, what each reads at the pointer, and how it leads. */
export function StringCells({
  names,
  numbers,
  nearFull,
  view,
  at,
  digits,
  chosen,
  onChosen,
}: {
  names: readonly string[];
  /** Numbers of those that are tied to a cell of the lot. */
  numbers: readonly (string | null)[];
  nearFull: StringWatch['nearFull'];
  view: ThinnedString | undefined;
  /** Stretch under the pointer. */
  at: number | null;
  digits: number;
  chosen: ReadonlySet<number>;
  onChosen: (cell: number, on: boolean) => void;
}) {
  const standsOut = new Set(nearFull?.standOut.map(({ cell }) => cell));
  const reads = names.map((_, c) =>
    view && at !== null ? ([view.lowV[c]![at]!, view.highV[c]![at]!] as const) : null,
  );
  const tops = reads.flatMap((read) => (read ? [read[1]] : []));
  const [highest, lowest] = [Math.max(...tops), Math.min(...tops)];
  return (
    <Table label="Cells of the string" className="w-full text-[0.85rem] [&_td]:py-0 [&_th]:py-1">
      <thead>
        <tr>
          <th>Cell</th>
          <th className="num">here / V</th>
          <th className="num">highest</th>
          <th className="num">lowest</th>
        </tr>
      </thead>
      <tbody>
        {names.map((name, c) => (
          <tr key={name} className={standsOut.has(c) ? 'font-medium text-missed' : ''}>
            <td className="whitespace-nowrap">
              <span className="inline-flex items-center gap-1">
                <Tick
                  label={`Pick out ${name}`}
                  checked={chosen.has(c)}
                  onChecked={(on) => onChosen(c, on)}
                  className="gap-1"
                />
                {numbers[c] ? (
                  <Link
                    href={`/cells/${numbers[c]}`}
                    className="underline-offset-2 hover:underline"
                  >
                    {name}
                  </Link>
                ) : (
                  name
                )}
              </span>
            </td>
            <td className="num">
              {reads[c] && readingAt(reads[c][0], reads[c][1], digits)}
              {reads[c] && tops.length > 1 && highest > lowest && (
                <span className="ml-1 inline-block w-3 text-center" aria-hidden>
                  {reads[c][1] === highest ? '↑' : reads[c][1] === lowest ? '↓' : ''}
                </span>
              )}
            </td>
            <td className="num">{nearFull ? share(nearFull.highest[c]!) : '–'}</td>
            <td className="num">{nearFull ? share(nearFull.lowest[c]!) : '–'}</td>
          </tr>
        ))}
      </tbody>
    </Table>
  );
}
