'use client';

import { BREAKDOWN_CAUTION, type CellFormat, type PackCandidate } from '@dusk-tally/core/arrivals';
import { parseClearQuantity } from '@dusk-tally/core/units';
import type { PacksView, PhotoView } from '@dusk-tally/lab/arrivals';
import Link from 'next/link';
import { useState } from 'react';
import { Button } from '@/kit/button';
import { Problem } from '@/kit/page';
import {
  acknowledgeAct,
  addPacksAct,
  breakDownPackAct,
  labelCandidatesAct,
  setHarvestAct,
} from './arrival-acts';
import { typedNumber } from '@/kit/typed-number';
import { PhotoDrop } from './photo-drop';
import { useAct } from '@/kit/use-act';
import { Input, Label } from '@/kit/form-parts';
import { Choice, Option } from '@/kit/choice';
import { Table } from '@/kit/table';
import { NumberInput } from '@/kit/quantity-field';

type Pack = PacksView['packs'][number];
const HARVEST = { good: 'good', questionable: 'questionable', dead: 'dead' } as const;
/** So many numbers in parallel are shown of each build before the rest is asked for. */
const FEW_PARALLEL = 4;
/** A cell’s capacity this near to the claimed one is the claimed one. */
const AS_CLAIMED = 0.05;

const isAsClaimed = ({ cellAh, chemistry }: PackCandidate, lot: LotCell): boolean =>
  chemistry === lot.chemistry &&
  lot.claimedAh !== null &&
  Math.abs(cellAh / lot.claimedAh - 1) <= AS_CLAIMED;

interface LotCell {
  chemistry: string;
  claimedAh: number | null;
}

/** What fits the lot’s claim first, else as the label ranks them; few of each build unless all are asked for. */
function ranked(candidates: PackCandidate[], lot: LotCell, all: boolean): PackCandidate[] {
  const order = [...candidates].sort(
    (a, b) => Number(isAsClaimed(b, lot)) - Number(isAsClaimed(a, lot)),
  );
  if (all) return order;
  const seen = new Map<string, number>();
  return order.filter((candidate) => {
    const build = `${candidate.chemistry} ${candidate.series}`;
    const count = (seen.get(build) ?? 0) + 1;
    seen.set(build, count);
    return count <= FEW_PARALLEL;
  });
}

/** Packs: what their label can mean, broken down into cells that remember where they sat. */
export function PacksStep({
  lotId,
  format,
  lot,
  view,
  photos,
}: {
  lotId: number;
  format: CellFormat;
  lot: LotCell;
  view: PacksView;
  photos: PhotoView[];
}) {
  const { opened } = view.yield;
  const all = view.yield.good + view.yield.questionable + view.yield.dead;
  return (
    <div className="space-y-4">
      <PackForm lotId={lotId} />
      {view.packs.length > 0 && <Caution acknowledged={view.acknowledgedToday} />}
      {opened > 0 && (
        <p data-testid="harvest">
          Harvest of {opened} {opened === 1 ? 'pack' : 'packs'}: {view.yield.good} good,{' '}
          {view.yield.questionable} questionable, {view.yield.dead} dead of {all} (
          {((100 * view.yield.good) / all).toFixed(0)} % good); {view.yield.minutes} minutes,{' '}
          {(view.yield.minutes / all).toFixed(1)} a cell.
        </p>
      )}
      <ul className="space-y-3">
        {view.packs.map((pack) => (
          <li key={pack.id} className="panel p-4">
            <div className="flex flex-wrap items-baseline gap-x-3">
              <h2 className="font-semibold">{pack.number}</h2>
              <span className="text-quiet">
                {pack.label ? `“${pack.label}”, ` : ''}
                {pack.voltageV} V{pack.capacityAh !== null && `, ${pack.capacityAh} Ah`}
                {pack.energyWh !== null && `, ${pack.energyWh} Wh`}
                {pack.openedAt &&
                  `; ${pack.series}S${pack.parallel}P ${pack.chemistry}, broken down by ${pack.openedByName}${pack.minutes === null ? '' : ` in ${pack.minutes} min`}`}
              </span>
            </div>
            {pack.weakGroup && <p className="mt-1 text-missed">{pack.weakGroup}</p>}
            {pack.openedAt ? (
              <PackCells pack={pack} />
            ) : (
              <BreakDown pack={pack} format={format} lot={lot} ready={view.acknowledgedToday} />
            )}
            <PhotoDropFold lotId={lotId} pack={pack} photos={photos} />
          </li>
        ))}
      </ul>
    </div>
  );
}

function PhotoDropFold({
  lotId,
  pack,
  photos,
}: {
  lotId: number;
  pack: Pack;
  photos: PhotoView[];
}) {
  const own = photos.filter((p) => p.subjectType === 'pack' && p.subjectId === pack.id).length;
  const [open, setOpen] = useState(false);
  if (!open)
    return (
      <Button look="bare" className="mt-2" onClick={() => setOpen(true)}>
        Photographs{own > 0 && ` (${own})`}
      </Button>
    );
  return (
    <PhotoDrop
      lotId={lotId}
      subject={{ type: 'pack', id: pack.id }}
      photos={photos}
      title={`Photographs of ${pack.number}`}
    />
  );
}

function Caution({ acknowledged }: { acknowledged: boolean }) {
  const { run, busy, problem } = useAct();
  return (
    <div
      className={`rounded-sm border-2 bg-wash p-3 ${acknowledged ? 'border-rule' : 'border-doubt'}`}
    >
      <p>{BREAKDOWN_CAUTION}</p>
      {acknowledged ? (
        <p className="mt-1 text-quiet">You read this today.</p>
      ) : (
        <Button
          className="mt-2 min-h-11"
          disabled={busy}
          onClick={() => run(() => acknowledgeAct({ kind: 'breakdown' }))}
        >
          Read; gloves and glasses are on
        </Button>
      )}
      {problem && <Problem>{problem}</Problem>}
    </div>
  );
}

function PackForm({ lotId }: { lotId: number }) {
  const [draft, setDraft] = useState({ count: '1', label: '', voltage: '', ah: '', wh: '' });
  const { run, busy, problem, setProblem } = useAct();
  const set = (patch: Partial<typeof draft>) => setDraft({ ...draft, ...patch });
  const submit = () => {
    const count = typedNumber(draft.count);
    const voltage = parseClearQuantity(draft.voltage, 'voltageV');
    if (!count || !Number.isInteger(count))
      return setProblem(`How many: expected a whole number; found “${draft.count}”.`);
    if (!voltage.ok) return setProblem(`Voltage: ${voltage.message}`);
    const ah = draft.ah.trim() === '' ? null : parseClearQuantity(draft.ah, 'capacityAh');
    if (ah && !ah.ok) return setProblem(`Capacity: ${ah.message}`);
    const wh = typedNumber(draft.wh.replace(/\s*wh$/i, ''));
    if (Number.isNaN(wh))
      return setProblem(`Energy: expected a number in Wh; found “${draft.wh}”.`);
    const clientKey = crypto.randomUUID();
    run(
      () =>
        addPacksAct({
          lotId,
          clientKey,
          count,
          label: draft.label,
          voltageV: voltage.value,
          capacityAh: ah ? ah.value : null,
          energyWh: wh,
        }),
      () => setDraft({ ...draft, count: '1' }),
    );
  };
  const field = (name: keyof typeof draft, words: string, width: string) => (
    <Label text={words} className={width}>
      <Input
        className="min-h-11"
        value={draft[name]}
        onChange={(event) => set({ [name]: event.target.value })}
      />
    </Label>
  );
  return (
    <form
      className="panel flex flex-wrap items-end gap-3 p-4"
      onSubmit={(event) => {
        event.preventDefault();
        submit();
      }}
    >
      {field('count', 'Packs like this', 'w-32')}
      {field('label', 'Words on the label', 'min-w-48 flex-1')}
      {field('voltage', 'Voltage / V', 'w-28')}
      {field('ah', 'Capacity / Ah', 'w-28')}
      {field('wh', 'or energy / Wh', 'w-32')}
      <Button type="submit" className="min-h-11" disabled={busy}>
        Enter the packs
      </Button>
      {problem && <Problem>{problem}</Problem>}
    </form>
  );
}

function BreakDown({
  pack,
  format,
  lot,
  ready,
}: {
  pack: Pack;
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
    run(() =>
      breakDownPackAct({
        packId: pack.id,
        version: pack.version,
        chemistry: as,
        series,
        parallel,
        minutes: spent,
      }),
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
              {ranked(candidates, lot, all).map((candidate) => (
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
                      disabled={!ready || busy || candidate.chemistry !== lot.chemistry}
                      onClick={() => breakDown(candidate)}
                    >
                      Broken down so
                    </Button>
                  </td>
                </tr>
              ))}
            </tbody>
          </Table>
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

/** Cells of a pack by parallel group, with how each came out. */
function PackCells({ pack }: { pack: Pack }) {
  const { run, busy, problem } = useAct();
  const groups = [...new Set(pack.cells.map((cell) => cell.groupIndex))];
  return (
    <div className="mt-2 flex flex-wrap gap-2">
      {groups.map((group) => (
        <fieldset key={group} className="rounded-sm border border-rule px-2 pb-2">
          <legend className="px-1 text-[0.82rem] text-quiet">group {group}</legend>
          {pack.cells
            .filter((cell) => cell.groupIndex === group)
            .map((cell) => (
              <div key={cell.id} className="flex items-center gap-2">
                <Link href={`/cells/${cell.number}`} className="hover:underline">
                  {cell.number}
                </Link>
                <span className="text-[0.82rem] text-quiet tabular-nums">
                  {cell.firstV === null ? '' : `${cell.firstV.toFixed(3)} V`}
                </span>
                <Choice
                  label={`${cell.number} came out`}
                  className="rounded-sm border border-rule bg-raised px-1 py-0.5"
                  disabled={busy}
                  value={cell.harvest ?? 'good'}
                  onValue={(next) =>
                    run(() =>
                      setHarvestAct({
                        cellId: cell.id,
                        version: cell.version,
                        harvest: next as keyof typeof HARVEST,
                      }),
                    )
                  }
                >
                  {Object.entries(HARVEST).map(([value, words]) => (
                    <Option key={value} value={value}>
                      {words}
                    </Option>
                  ))}
                </Choice>
              </div>
            ))}
        </fieldset>
      ))}
      {problem && <Problem>{problem}</Problem>}
    </div>
  );
}
