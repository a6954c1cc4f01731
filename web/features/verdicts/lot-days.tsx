import type { lotDays } from '@dusk-tally/lab/verdicts';
import { Table } from '@/kit/table';

/** How the verdict grew, a line a day; one day alone tells nothing new. */
export function LotDays({ days }: { days: Awaited<ReturnType<typeof lotDays>> }) {
  if (days.length < 2) return null;
  return (
    <section className="panel mt-5 p-4" aria-label="How the verdict grew">
      <h2 className="font-semibold">How the verdict grew</h2>
      <Table label="How the verdict grew">
        <thead>
          <tr>
            <th>Day</th>
            <th className="num">Met</th>
            <th className="num">Not met</th>
            <th className="num">Too close</th>
            <th className="num">Held</th>
            <th className="num">Open</th>
          </tr>
        </thead>
        <tbody>
          {days.map(({ day, met, notMet, tooClose, held, open }) => (
            <tr key={day}>
              <td>{day}</td>
              <td className="num">{met}</td>
              <td className="num">{notMet}</td>
              <td className="num">{tooClose}</td>
              <td className="num">{held}</td>
              <td className="num">{open}</td>
            </tr>
          ))}
        </tbody>
      </Table>
    </section>
  );
}
