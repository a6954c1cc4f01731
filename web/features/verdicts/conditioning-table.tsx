import { formatWithUncertainty } from '@dusk-tally/core/units';
import type { ConditioningRound, LotConditioning } from '@dusk-tally/lab/verdicts';
import { Link } from '@/kit/link';
import { Table } from '@/kit/table';

const RESULT_TONE = { improved: 'text-met', unchanged: '', worse: 'text-missed' } as const;

function Tested({ test }: { test: ConditioningRound['before'] }) {
  if (!test) return <span className="text-quiet">–</span>;
  const { value, uncertainty } = formatWithUncertainty(test.ah, test.expandedAh ?? 0.001);
  return (
    <Link href={`/runs/${test.runId}`} className="underline">
      {value}
      {test.expandedAh !== null && <span className="text-quiet"> ± {uncertainty}</span>}
    </Link>
  );
}

function Changed({ round: { change, reason } }: { round: ConditioningRound }) {
  if (!change) return <span className="text-quiet">{reason}</span>;
  const { value, uncertainty } = formatWithUncertainty(
    change.changeAh,
    2 * change.standardUncertainty,
  );
  return (
    <>
      <span className={`font-medium ${RESULT_TONE[change.result]}`}>{change.result}</span>{' '}
      <span className="tabular-nums">
        {change.changeAh > 0 ? '+' : ''}
        {value} ± {uncertainty} Ah
      </span>
    </>
  );
}

const rise = (z: number | null) => (z === null ? '–' : z.toFixed(1));

/** Rounds of conditioning: before and after side by side, and what they cost. */
export function ConditioningTable({ conditioning }: { conditioning: LotConditioning }) {
  const { rounds, benchHours } = conditioning;
  if (rounds.length === 0) return null;
  return (
    <section className="panel mt-5 p-4" aria-label="Conditioning">
      <h2 className="font-semibold">Conditioning</h2>
      <p className="text-quiet">
        {rounds.length} {rounds.length === 1 ? 'round' : 'rounds'}, {benchHours.toFixed(1)} h of a
        channel. The verdict goes by the test after it.
      </p>
      <Table className="mt-1 w-full">
        <thead>
          <tr>
            <th>Cell</th>
            <th className="num">Before / Ah</th>
            <th className="num">After / Ah</th>
            <th>Change</th>
            <th className="num">Rises early, z before</th>
            <th className="num">after</th>
          </tr>
        </thead>
        <tbody>
          {rounds.map((round) => (
            <tr key={round.benchRunId}>
              <td>
                <Link href={`/cells/${round.cell}`} className="hover:underline">
                  {round.cell}
                </Link>
              </td>
              <td className="num">
                <Tested test={round.before} />
              </td>
              <td className="num">
                <Tested test={round.after} />
              </td>
              <td>
                <Changed round={round} />
              </td>
              <td className="num">{rise(round.riseBefore)}</td>
              <td className="num">{rise(round.riseAfter)}</td>
            </tr>
          ))}
        </tbody>
      </Table>
    </section>
  );
}
