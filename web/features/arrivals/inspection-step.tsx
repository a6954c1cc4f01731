'use client';

import { type CellFormat, readCells } from '@dusk-tally/core/arrivals';
import type { FindingView, PhotoView } from '@dusk-tally/lab/arrivals';
import { useMemo, useState } from 'react';
import { Button } from '@/kit/button';
import { CellsField } from '@/kit/cells-field';
import { OutboxLine } from '@/kit/outbox-line';
import { Problem } from '@/kit/page';
import { TallyStrip } from '@/kit/tally-strip';
import { useSoloKeys } from '@/lib/solo-key';
import { CellTiles } from './cell-tiles';
import { FindingList } from './finding-list';
import { FoundPanel } from './found-panel';
import { FINDING_KEYS, palette } from './inspection-marks';
import { InspectionWarnings } from './inspection-warnings';
import type { ArrivalNow } from './use-arrival';
import { useInspection } from './use-inspection';

/** Up to here cells stand as tiles, large enough for a glove. */
const MOST_TILES = 150;

/** What is typed beside the marks, and the keys that mark. */
function useMarking(
  inspection: ReturnType<typeof useInspection>,
  groups: ReturnType<typeof palette>,
) {
  const { cells, picked } = inspection;
  const { setChosen } = picked;
  const [subset, setSubset] = useState('');
  const [note, setNote] = useState('');
  const nameable = useMemo(
    () => cells.map(({ id, number, code }) => ({ id, number, label: code })),
    [cells],
  );
  const afterwards = (act: () => void) => {
    act();
    setSubset('');
    setNote('');
  };
  const find = (code: string) => afterwards(() => inspection.find(code, note));
  const clear = () => afterwards(inspection.clear);
  const clearRest = () => afterwards(inspection.clearRest);
  useSoloKeys((key) => {
    const code = groups
      .flatMap((group) => group.kinds)
      .find((kind) => FINDING_KEYS[kind.code] === key.toLowerCase())?.code;
    if (key === 'c') clear();
    else if (key === 'x') clearRest();
    else if (key === 'Escape') setChosen(new Set());
    else if (code) find(code);
  });
  const pickNamed = (text: string) => {
    setSubset(text);
    const named = new Set(readCells(text, nameable).ids);
    setChosen(new Set(cells.filter(({ id }) => named.has(id)).map(({ number }) => number)));
  };
  return { subset, pickNamed, note, setNote, nameable, find, clear, clearRest };
}

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
  const inspection = useInspection(lotId, initial);
  const { cells, picked, ids, left } = inspection;
  const { chosen } = picked;
  const groups = palette(format);
  const { subset, pickNamed, note, setNote, nameable, find, clear, clearRest } = useMarking(
    inspection,
    groups,
  );
  return (
    <div className="space-y-4">
      <InspectionWarnings
        stopped={inspection.stopped}
        beside={inspection.beside}
        onUnderstood={inspection.understood}
      />
      <TallyStrip
        strokes={inspection.strokes}
        chosen={chosen}
        onPick={picked.pick}
        rowHeight={72}
      />
      <div className="flex flex-wrap items-end gap-3">
        <CellsField
          className="min-w-56 flex-1"
          inputClass="min-h-11"
          label="Pick by number, or scan"
          lot={lotCode}
          cells={nameable}
          read={readCells(subset, nameable)}
          text={subset}
          onText={pickNamed}
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
            onPick={(number, upTo) => picked.pick([number], upTo)}
          />
        ) : (
          <p className="panel self-start p-4 text-quiet">
            {cells.length} cells: pick them on the tally above, by number, or by scanning.
          </p>
        )}
        <FoundPanel
          groups={groups}
          chosen={[...chosen]}
          note={note}
          torque={torque}
          onNote={setNote}
          onFind={find}
        />
      </div>
      {inspection.refused && <Problem>{inspection.refused}</Problem>}
      <OutboxLine state={inspection.state} one="mark" many="marks" />
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
