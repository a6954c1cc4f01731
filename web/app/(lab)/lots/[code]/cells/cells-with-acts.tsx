'use client';

import { LayDown } from '@/features/resting/lay-down';
import { CellsTable } from '@/features/verdicts/cells-table';
import type { PackedLines } from '@/features/verdicts/packed-lines';

/** The cells of a lot with what the stages can do with chosen ones. */
export function CellsWithActs({
  packed,
  lot: { id, code },
  flat,
}: {
  packed: PackedLines;
  lot: { id: number; code: string };
  /** Volts after full charge say little of its chemistry. */
  flat: boolean;
}) {
  return (
    <CellsTable
      code={code}
      packed={packed}
      acts={(chosen, clear) => (
        <LayDown lotId={id} cellIds={chosen.map((line) => line.id)} flat={flat} done={clear} />
      )}
    />
  );
}
