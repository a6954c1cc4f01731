import { formatDuration } from '@dusk-tally/core/units';
import type { StringEntry } from '@dusk-tally/lab/evidence';
import { Link } from '@/kit/link';
import { LabMoment } from '@/kit/lab-time';
import { Empty } from '@/kit/page';
import { Table } from '@/kit/table';

/** The watched periods of a lot. */
export function StringList({ strings }: { strings: readonly StringEntry[] }) {
  if (strings.length === 0)
    return (
      <Empty title="No string watched yet">
        Cells that stand in a string show who runs ahead and who stays behind. Bring in what its
        monitor logged; two periods, such as before and after conditioning, can be put side by side.
      </Empty>
    );
  return (
    <div className="panel p-4">
      <Table label="Watched periods">
        <thead>
          <tr>
            <th>Period</th>
            <th>Began</th>
            <th className="num">Length</th>
            <th className="num">Cells</th>
            <th>Stands out near full</th>
          </tr>
        </thead>
        <tbody>
          {strings.map((one) => (
            <tr key={one.id} className={one.takenBack ? 'text-quiet' : ''}>
              <td>
                <Link href={`/strings/${one.id}`} className="underline">
                  {one.name}
                </Link>{' '}
                <span className="text-quiet">{one.fileName}</span>
                {one.takenBack && `, taken back: ${one.takenBack.why}`}
              </td>
              <td>{one.startedAt ? <LabMoment at={one.startedAt} /> : 'not said'}</td>
              <td className="num">{formatDuration(one.durationS)}</td>
              <td className="num">
                {one.tied === one.cells ? one.cells : `${one.cells}, ${one.tied} named`}
              </td>
              <td>{one.standOut.length > 0 ? one.standOut.join(', ') : 'none'}</td>
            </tr>
          ))}
        </tbody>
      </Table>
    </div>
  );
}
