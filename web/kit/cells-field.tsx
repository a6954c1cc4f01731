'use client';

import {
  cellsExample,
  type CellsRead,
  type NameableCell,
  unknownCells,
} from '@dusk-tally/core/arrivals';
import { Input, Label } from './form-parts';

/** Cells of one lot, written as people write them; what names none is said. */
export function CellsField({
  label,
  lot,
  cells,
  read,
  text,
  onText,
  onBlur,
  otherwise = '',
  className = '',
  inputClass = '',
}: {
  label: string;
  /** Code of the lot. */
  lot: string;
  cells: readonly NameableCell[];
  /** What the text was read as. */
  read: CellsRead;
  text: string;
  onText: (text: string) => void;
  onBlur?: () => void;
  /** What an empty field stands for, such as `all tested, or `. */
  otherwise?: string;
  className?: string;
  inputClass?: string;
}) {
  const unknown = unknownCells(read, lot);
  return (
    <Label text={label} className={className}>
      <Input
        className={inputClass}
        aria-invalid={unknown !== null || undefined}
        placeholder={`${otherwise}${cellsExample(cells)}`}
        value={text}
        onChange={(event) => onText(event.target.value)}
        onBlur={onBlur}
      />
      {unknown && (
        <p role="status" className="mt-1 text-[0.85rem] text-missed">
          {unknown}
        </p>
      )}
    </Label>
  );
}
