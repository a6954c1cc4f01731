'use client';

import {
  type CellFormat,
  findingKind,
  UNPACKING_CAUTION,
  WHAT_FOLLOWS,
} from '@dusk-tally/core/arrivals';
import type { FindingView, PhotoView } from '@dusk-tally/lab/arrivals';
import { TriangleAlert } from 'lucide-react';
import { useRouter } from 'next/navigation';
import { useEffect, useMemo, useState } from 'react';
import { Button } from '@/kit/button';
import { Problem } from '@/kit/page';
import { TallyStrip } from '@/kit/tally-strip';
import { useSoloKeys } from '@/lib/solo-key';
import { useSendQueue } from '@/lib/use-send-queue';
import { OutboxLine } from '@/kit/outbox-line';
import { CellsField } from '@/kit/cells-field';
import { CellTiles } from './cell-tiles';
import { FindingList } from './finding-list';
import {
  FINDING_KEYS,
  type HeldMarks,
  type Mark,
  palette,
  strokesOf,
  withMarks,
} from './inspection-marks';
import { useScans } from '@/kit/scan-listener';
import { type ArrivalNow, useArrival } from './use-arrival';
import { Input } from '@/kit/form-parts';
import { readCells } from '@dusk-tally/core/arrivals';

const SEVERITY_WORDS = { stop: 'Stop', serious: 'Serious', note: 'Note' };
/** Up to here cells stand as tiles, large enough for a glove. */
const MOST_TILES = 150;

/** Marking what an inspection sees: pick cells on the tally or by tile, press what was found. */
export function InspectionStep({
  lotId,
  lotCode,
  format,
  torque,
  initial,
  findings,
  photos,
  mayLead,
}: {
  lotId: number;
  lotCode: string;
  format: CellFormat;
  /** What the data sheet says of the terminals, in words. */
  torque: string;
  initial: ArrivalNow;
  findings: FindingView[];
  photos: PhotoView[];
  mayLead: boolean;
}) {
  const router = useRouter();
  const arrival = useArrival(lotId, initial);
  const [held, setHeld] = useState<Mark[]>([]);
  const [refused, setRefused] = useState<string | null>(null);
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const [subset, setSubset] = useState('');
  const [note, setNote] = useState('');
  const [stopped, setStopped] = useState<string[]>([]);
  const { state, push, restore } = useSendQueue<HeldMarks>({
    what: `inspection:${lotId}`,
    url: `/api/lots/${lotId}/inspection`,
    pack: ([first]) => ({ batch: [first!], body: first }),
    onReply: () => {
      void arrival.refetch().then(() => {
        setHeld((now) => now.slice(1));
        router.refresh();
      });
    },
    onRefused: (_mark, message) => {
      setHeld((now) => now.slice(1));
      setRefused(`${message} Mark again what is missing.`);
    },
  });
  useEffect(() => {
    setHeld(restore().flatMap((batch) => batch.marks));
  }, [restore]);

  const cells = useMemo(() => withMarks(arrival.data.cells, held), [arrival.data.cells, held]);
  const strokes = useMemo(() => strokesOf(cells), [cells]);
  const nameable = useMemo(
    () => cells.map(({ id, number, code }) => ({ id, number, label: code })),
    [cells],
  );
  const byNumber = useMemo(() => new Map(cells.map((cell) => [cell.number, cell])), [cells]);
  const [last, setLast] = useState<string | null>(null);
  const left = cells.filter((cell) => !cell.inspected).length;
  const groups = palette(format);

  const pick = (numbers: readonly string[], upTo: boolean) => {
    const next = new Set(chosen);
    const end = numbers.at(-1)!;
    const from = upTo && last ? cells.findIndex((cell) => cell.number === last) : -1;
    const to = cells.findIndex((cell) => cell.number === end);
    if (from >= 0)
      for (let i = Math.min(from, to); i <= Math.max(from, to); i++) next.add(cells[i]!.number);
    else if (numbers.every((number) => next.has(number)))
      for (const number of numbers) next.delete(number);
    else for (const number of numbers) next.add(number);
    setLast(end);
    setChosen(next);
  };
  useScans((code) => {
    const cell = cells.find((row) => row.code === code || row.number === code);
    if (cell) {
      setChosen(new Set([...chosen, cell.number]));
      setLast(cell.number);
    }
    return cell
      ? `${cell.number} picked.`
      : `${code} is on no cell of this lot yet: scan it under Codes.`;
  });

  const send = (mark: Mark) => {
    setRefused(null);
    setHeld((now) => [...now, mark]);
    push([{ clientKey: crypto.randomUUID(), marks: [mark] }]);
    setChosen(new Set());
    setSubset('');
    setNote('');
  };
  const ids = [...chosen].flatMap((number) => byNumber.get(number)?.id ?? []);
  const find = (code: string) => {
    if (ids.length === 0) return;
    if (findingKind(code).severity === 'stop') setStopped([...chosen]);
    send({ act: 'finding', cellIds: ids, code, note: note.trim() || null });
  };
  const clear = () => ids.length > 0 && send({ act: 'clear', cellIds: ids });
  const clearRest = () => left > 0 && send({ act: 'clearRest', except: ids });

  useSoloKeys((key) => {
    const code = groups
      .flatMap((group) => group.kinds)
      .find((kind) => FINDING_KEYS[kind.code] === key.toLowerCase())?.code;
    if (key === 'c') clear();
    else if (key === 'x') clearRest();
    else if (key === 'Escape') setChosen(new Set());
    else if (code) find(code);
  });

  return (
    <div className="space-y-4">
      {stopped.length > 0 && (
        <div role="alert" className="rounded-sm border-2 border-missed bg-wash p-4">
          <p className="flex items-center gap-2 font-semibold text-missed">
            <TriangleAlert size={18} aria-hidden />
            {stopped.join(', ')} {stopped.length === 1 ? 'is' : 'are'} in quarantine from now on.
          </p>
          <p className="mt-1">{UNPACKING_CAUTION}</p>
          <Button className="mt-2 min-h-11" onClick={() => setStopped([])}>
            Understood
          </Button>
        </div>
      )}
      <TallyStrip strokes={strokes} chosen={chosen} onPick={pick} rowHeight={72} />
      <div className="flex flex-wrap items-end gap-3">
        <CellsField
          className="min-w-56 flex-1"
          inputClass="min-h-11"
          label="Pick by number, or scan"
          lot={lotCode}
          cells={nameable}
          read={readCells(subset, nameable)}
          text={subset}
          onText={(next) => {
            setSubset(next);
            const ids = new Set(readCells(next, nameable).ids);
            setChosen(new Set(cells.filter(({ id }) => ids.has(id)).map(({ number }) => number)));
          }}
        />
        <Button className="min-h-11" disabled={ids.length === 0} onClick={clear}>
          Clear, nothing found <kbd className="text-quiet">C</kbd>
        </Button>
        <Button
          look="primary"
          className="min-h-11"
          disabled={left === 0}
          onClick={clearRest}
          data-testid="clear-rest"
        >
          {ids.length > 0
            ? `All clear except the ${ids.length} picked`
            : `The other ${left} are all clear`}{' '}
          <kbd>X</kbd>
        </Button>
      </div>
      <div className="grid gap-4 md:grid-cols-[minmax(0,1fr)_18.5rem]">
        {cells.length <= MOST_TILES ? (
          <CellTiles
            cells={cells}
            chosen={chosen}
            onPick={(number, upTo) => pick([number], upTo)}
          />
        ) : (
          <p className="panel self-start p-4 text-quiet">
            {cells.length} cells: pick them on the tally above, by number, or by scanning.
          </p>
        )}
        <section
          className="panel sticky top-2 max-h-[calc(100dvh-1rem)] self-start overflow-auto p-3"
          aria-label="What was found"
          tabIndex={0}
        >
          <div className="space-y-2">
            <p className="font-semibold">
              {ids.length === 0
                ? 'Pick cells first, then press what was found'
                : `Found on ${[...chosen].slice(0, 6).join(', ')}${chosen.size > 6 ? ` and ${chosen.size - 6} more` : ''}:`}
            </p>
            <label className="block">
              <span className="sr-only">Note to the finding</span>
              <Input
                placeholder="a note to it, if any"
                value={note}
                onChange={(event) => setNote(event.target.value)}
              />
            </label>
          </div>
          <div className="mt-3 space-y-4">
            {groups.map(({ severity, kinds }) => (
              <div key={severity}>
                <h3
                  className={`font-semibold ${{ stop: 'text-missed', serious: 'text-doubt', note: '' }[severity]}`}
                >
                  {SEVERITY_WORDS[severity]}
                </h3>
                <p className="mb-1.5 text-[0.82rem] leading-tight text-quiet">
                  {WHAT_FOLLOWS[severity]}
                </p>
                <div className="flex flex-col gap-1.5">
                  {kinds.map((kind) => (
                    <Button
                      key={kind.code}
                      className="min-h-10 justify-between px-2.5 text-left"
                      disabled={ids.length === 0}
                      onClick={() => find(kind.code)}
                    >
                      {kind.words}
                      <kbd className="text-quiet">{FINDING_KEYS[kind.code]?.toUpperCase()}</kbd>
                    </Button>
                  ))}
                </div>
              </div>
            ))}
          </div>
          <p className="mt-3 text-quiet">{torque}</p>
        </section>
      </div>
      {refused && <Problem>{refused}</Problem>}
      <OutboxLine state={state} one="mark" many="marks" />
      <FindingList
        lotId={lotId}
        findings={findings}
        numbers={new Map(cells.map((cell) => [cell.id, cell.number]))}
        photos={photos}
        mayLead={mayLead}
      />
    </div>
  );
}
