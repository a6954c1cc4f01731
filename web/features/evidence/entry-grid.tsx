'use client';

import { useState } from 'react';
import { Button } from '@/kit/button';
import { OutboxLine } from '@/kit/outbox-line';
import { beep } from './grid-input';
import { GridRows } from './grid-rows';
import { notStored } from './grid-state';
import { GridTools } from './grid-tools';
import type { Walk } from './grid-walk';
import { type GridSettings, useGrid } from './use-grid';

const DEFAULT_KINDS: GridSettings['kinds'] = ['acResistance', 'openCircuitVoltage', 'capacity'];

/** What is typed and not stored, by why. */
function NotStored({
  grid,
  onForget,
}: {
  grid: ReturnType<typeof useGrid>['grid'];
  onForget: () => void;
}) {
  const { asked, wrong, unplaced, all } = notStored(grid);
  if (all === 0) return null;
  const why = [
    asked > 0 ? `${asked} asked about` : '',
    wrong > 0 ? `${wrong} not understood or not taken` : '',
    unplaced > 0 ? `${unplaced} did not fit below or beside` : '',
  ].filter(Boolean);
  return (
    <p role="status" className="flex flex-wrap items-center gap-2 text-doubt">
      {all} not stored: {why.join(', ')}.
      {unplaced > 0 && (
        <Button look="bare" onClick={onForget}>
          Leave those out
        </Button>
      )}
    </p>
  );
}

/** Readings typed off a meter: value, Enter, next cell; several people at once. */
export function EntryGrid({
  kinds = DEFAULT_KINDS,
  takenFor = 'arrival',
  mayChoose = false,
  claimedRateIt = null,
  ...rest
}: Omit<GridSettings, 'kinds' | 'takenFor'> & {
  kinds?: GridSettings['kinds'];
  takenFor?: GridSettings['takenFor'];
  /** What readings are taken for may be chosen otherwise. */
  mayChoose?: boolean;
  /** Rate the capacity is claimed at; null where the claim names none. */
  claimedRateIt?: number | null;
}) {
  const grid = useGrid({ ...rest, kinds, takenFor }, beep);
  const [walk, setWalk] = useState<Walk>('down');
  return (
    <div>
      <div className="mb-3 flex flex-wrap items-end gap-4">
        <GridTools
          grid={grid}
          instruments={rest.instruments}
          kinds={kinds}
          mayChoose={mayChoose}
          claimedRateIt={claimedRateIt}
          walk={walk}
          onWalk={setWalk}
        />
        <OutboxLine state={grid.state} />
        <NotStored grid={grid.grid} onForget={grid.forgetUnplaced} />
      </div>
      <GridRows grid={grid} cells={rest.cells} walk={walk} />
    </div>
  );
}
