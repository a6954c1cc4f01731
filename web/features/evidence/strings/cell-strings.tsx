import type { CellInString } from '@dusk-tally/lab/evidence';
import { Link } from '@/kit/link';
import { LabDay } from '@/kit/lab-time';
import { Table } from '@/kit/table';
import { percent } from './watch-words';

/** How one cell did in the strings it was watched in. */
export function CellStrings({ strings }: { strings: readonly CellInString[] }) {
  if (strings.length === 0) return null;
  return (
    <section className="panel p-4">
      <h2 className="font-semibold">In strings that were watched</h2>
      <Table label="Strings this cell was watched in" className="mt-1 w-full">
        <thead>
          <tr>
            <th>Period</th>
            <th>Day</th>
            <th className="num">highest near full</th>
            <th className="num">lowest near full</th>
            <th>Beside the others</th>
          </tr>
        </thead>
        <tbody>
          {strings.map((one) => (
            <tr key={one.stringId}>
              <td>
                <Link href={`/strings/${one.stringId}`} className="underline">
                  {one.name}
                </Link>
              </td>
              <td>
                <LabDay at={one.at} />
              </td>
              <td className="num">{one.highest === null ? '–' : percent(one.highest)}</td>
              <td className="num">{one.lowest === null ? '–' : percent(one.lowest)}</td>
              <td>
                {one.highest === null
                  ? 'never near full'
                  : one.standsOut.length > 0
                    ? `stands out: ${one.standsOut.join('; ')}`
                    : `one of ${one.cells} that take turns`}
              </td>
            </tr>
          ))}
        </tbody>
      </Table>
    </section>
  );
}
