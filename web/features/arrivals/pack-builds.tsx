'use client';

import type { CellFormat, PackCandidate } from '@dusk-tally/core/arrivals';
import type { PacksView } from '@dusk-tally/lab/arrivals';
import { useState } from 'react';
import { Button } from '@/kit/button';
import { Problem } from '@/kit/page';
import { NumberInput } from '@/kit/quantity-field';
import { Table } from '@/kit/table';
import { typedNumber } from '@/kit/typed-number';
import { useAct } from '@/kit/use-act';
import { breakDownPackAct, labelCandidatesAct } from './arrival-acts';
import { isAsClaimed, type LotCell, ranked } from './pack-ranking';

/** What a label can mean, each build with what speaks for it. */
function BuildTable({
  candidates,
  lot,
  disabled,
  onBreakDown,
}: {
  candidates: readonly PackCandidate[];
  lot: LotCell;
  disabled: boolean;
  onBreakDown: (candidate: PackCandidate) => void;
}) {
  return (
    <Table>
      <thead>
        <tr>
          <th>Build</th>
          <th>Chemistry</th>
          <th className="num">Per cell / V</th>
          <th className="num">From nominal / %</th>
          <th className="num">Cell / Ah</th>
          <th className="num">Cells</th>
          <th>
            <span className="sr-only">Break down</span>
          </th>
        </tr>
      </thead>
      <tbody>
        {candidates.map((candidate) => (
          <tr
            key={`${candidate.chemistry}-${candidate.series}-${candidate.parallel}`}
            className={candidate.chemistry === lot.chemistry ? '' : 'text-quiet'}
          >
            <td className="font-medium">
              {candidate.series}S{candidate.parallel}P
            </td>
            <td>
              {candidate.chemistry}
              {candidate.chemistry !== lot.chemistry && ', not the lot’s model'}
              {isAsClaimed(candidate, lot) && ', the cell as claimed'}
            </td>
            <td className="num">{candidate.perCellV.toFixed(2)}</td>
            <td className="num">
              {candidate.deviationPct.toFixed(1)}
              {candidate.odd && ' odd'}
            </td>
            <td className="num">{candidate.cellAh.toFixed(2)}</td>
            <td className="num">{candidate.series * candidate.parallel}</td>
            <td className="text-right">
              <Button
                disabled={disabled || candidate.chemistry !== lot.chemistry}
                onClick={() => onBreakDown(candidate)}
              >
                Broken down so
              </Button>
            </td>
          </tr>
        ))}
      </tbody>
    </Table>
  );
}

/** What a pack’s label can mean, and breaking it down as one of those. */
export function BreakDown({
  pack,
  format,
  lot,
  ready,
}: {
  pack: PacksView['packs'][number];
  format: CellFormat;
  lot: LotCell;
  ready: boolean;
}) {
  const [candidates, setCandidates] = useState<PackCandidate[] | null>(null);
  const [all, setAll] = useState(false);
  const [minutes, setMinutes] = useState('');
  const { run, busy, problem, setProblem } = useAct();
  const look = async () => {
    const { voltageV, capacityAh, energyWh } = pack;
    const outcome = await labelCandidatesAct({ format, voltageV, capacityAh, energyWh });
    if (outcome.ok) setCandidates(outcome.data);
    else setProblem(outcome.message);
  };
  const breakDown = ({ chemistry: as, series, parallel }: PackCandidate) => {
    const spent = typedNumber(minutes);
    if (Number.isNaN(spent)) return setProblem(`Minutes: expected a number; found “${minutes}”.`);
    run((key) =>
      breakDownPackAct(
        {
          packId: pack.id,
          version: pack.version,
          chemistry: as,
          series,
          parallel,
          minutes: spent,
        },
        key,
      ),
    );
  };
  return (
    <div className="mt-2">
      {candidates === null ? (
        <Button className="min-h-11" onClick={() => void look()}>
          What can its label mean?
        </Button>
      ) : candidates.length === 0 ? (
        <p className="text-doubt">
          No chemistry gives a whole number of cells in series within 4 %. Is the label read right?
        </p>
      ) : (
        <>
          <label className="mb-2 flex items-center gap-2">
            <span className="text-quiet">Minutes spent on it</span>
            <NumberInput
              quantity="durationMin"
              text={minutes}
              onText={(next) => setMinutes(next)}
              className="w-24"
            />
            {!ready && <span className="text-doubt">Read the caution above first.</span>}
          </label>
          <BuildTable
            candidates={ranked(candidates, lot, all)}
            lot={lot}
            disabled={!ready || busy}
            onBreakDown={breakDown}
          />
          {!all && candidates.length > ranked(candidates, lot, false).length && (
            <Button look="bare" onClick={() => setAll(true)}>
              Show all {candidates.length}
            </Button>
          )}
        </>
      )}
      {problem && <Problem>{problem}</Problem>}
    </div>
  );
}
