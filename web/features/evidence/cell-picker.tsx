'use client';

import { matchCell } from '@dusk-tally/core/arrivals';
import { useId, useState } from 'react';
import type { CellChoice } from './log-queue';

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
  const listId = useId();
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
      <input
        className="field"
        list={listId}
        aria-label={label}
        aria-invalid={unknown}
        placeholder="which cell?"
        value={text}
        onChange={(event) => settle(event.target.value)}
        onBlur={() => found && setText(found.number)}
      />
      <datalist id={listId}>
        {cells.slice(0, 400).map((cell) => (
          <option key={cell.id} value={cell.number}>
            {[cell.label, cell.tested ? 'tested' : ''].filter(Boolean).join(', ')}
          </option>
        ))}
      </datalist>
      {unknown && <span className="text-[0.78rem] text-missed">no such cell in this lot</span>}
    </span>
  );
}
