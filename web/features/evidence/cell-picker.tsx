'use client';

import { matchCell } from '@dusk-tally/core/arrivals';
import { useState } from 'react';
import type { CellChoice } from './log-queue';
import { Suggesting } from '@/kit/form-parts';

/** A cell by its number or own mark, typed, scanned or chosen; a number alone will do. */
export function CellPicker({
  cells,
  value,
  onChange,
  label,
}: {
  cells: CellChoice[];
  value: number | null;
  onChange: (cellId: number | null) => void;
  label: string;
}) {
  const chosen = cells.find((cell) => cell.id === value);
  const [text, setText] = useState(chosen?.number ?? '');
  const found = text.trim() === '' ? null : matchCell(text, cells);
  const settle = (typed: string) => {
    setText(typed);
    onChange(matchCell(typed, cells)?.id ?? null);
  };
  const unknown = text.trim() !== '' && !found;
  return (
    <span className="block">
      <Suggesting
        aria-label={label}
        aria-invalid={unknown}
        placeholder="which cell?"
        value={text}
        onValue={settle}
        known={cells.slice(0, 400).map((cell) => ({
          value: cell.number,
          hint: [cell.label, cell.tested ? 'tested' : ''].filter(Boolean).join(', '),
        }))}
        onBlur={() => found && setText(found.number)}
      />
      {unknown && <span className="text-[0.78rem] text-missed">no such cell in this lot</span>}
    </span>
  );
}
