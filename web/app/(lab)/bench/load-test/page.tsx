import { stringTests } from '@dusk-tally/lab/bench';
import { Link } from '@/kit/link';
import { Empty } from '@/kit/page';
import { lab } from '@/lib/lab';
import { requireActor } from '@/lib/session';
import { LabMoment } from '@/kit/lab-time';
import { Table } from '@/kit/table';

export const metadata = { title: 'Load tests' };

export default async function LoadTestsPage() {
  const tests = await stringTests(lab(), await requireActor(), {});
  const create = (
    <Link
      href="/bench/load-test/new"
      className="inline-flex min-h-9 items-center rounded-sm bg-ember px-4 font-medium text-on-ember"
    >
      New load test
    </Link>
  );
  if (tests.length === 0)
    return (
      <Empty title="No load test yet">
        <p className="mb-3">
          Cells in series, read one by one at two loads: sag, ΔV / ΔI and power of each, which cell
          and which joint stands out, and whether the pack gives what its weakest cell can.
        </p>
        {create}
      </Empty>
    );
  return (
    <div className="space-y-3">
      {create}
      <section className="panel p-4">
        <Table>
          <thead>
            <tr>
              <th>String</th>
              <th>Lot</th>
              <th className="num">Cells</th>
              <th>At / %</th>
              <th>Stands out</th>
              <th>Changed</th>
            </tr>
          </thead>
          <tbody>
            {tests.map((test) => (
              <tr key={test.id}>
                <td>
                  <Link href={`/bench/load-test/${test.id}`} className="underline">
                    {test.title}
                  </Link>
                </td>
                <td>{test.lot}</td>
                <td className="num">{test.cells}</td>
                <td>{test.states.join(', ') || 'from a log'}</td>
                <td>
                  {test.standOut.join(', ') || 'none'}
                  {test.hotJoints > 0 && (
                    <strong className="text-missed">
                      ; {test.hotJoints === 1 ? 'a joint was hot' : `${test.hotJoints} hot joints`}
                    </strong>
                  )}
                </td>
                <td>
                  <LabMoment at={test.updatedAt} />
                </td>
              </tr>
            ))}
          </tbody>
        </Table>
      </section>
    </div>
  );
}
