'use client';

import { useState } from 'react';
import { Button } from '@/kit/button';
import type { DataColumn } from '@/kit/data-table/columns';
import { DataTable } from '@/kit/data-table/data-table';

interface ShowRow {
  number: string;
  ah: number | null;
  grade: string;
}

const ROWS: ShowRow[] = Array.from({ length: 10_000 }, (_, i) => ({
  number: `B-${String(i + 1).padStart(5, '0')}`,
  ah: i % 7 === 3 ? null : 100 + ((i * 37) % 100) / 20,
  grade: ['First', 'Second', 'Utility'][i % 3]!,
}));
const idOf = ({ number }: ShowRow): string => number;
const COLUMNS: DataColumn<ShowRow>[] = [
  {
    key: 'number',
    head: 'Cell',
    width: 120,
    plain: ({ number }) => number,
    cell: ({ number }) => number,
  },
  {
    key: 'ah',
    head: 'Capacity / Ah',
    width: 140,
    num: true,
    plain: ({ ah }) => ah,
    cell: ({ ah }) => ah?.toFixed(2) ?? '–',
  },
  {
    key: 'grade',
    head: 'Grade',
    width: 120,
    grows: true,
    plain: ({ grade }) => grade,
    cell: ({ grade }) => grade,
  },
];

/** A table of ten thousand rows, for looking at and for tests. */
export function ShowTable({ label }: { label: string }) {
  const [said, setSaid] = useState('');
  return (
    <>
      <DataTable
        name="show"
        label={label}
        rows={ROWS}
        rowId={idOf}
        columns={COLUMNS}
        rowHeight={36}
        acts={(chosen, clear) => (
          <Button
            onClick={() => {
              setSaid(`${chosen.length} marked`);
              clear();
            }}
          >
            Mark them
          </Button>
        )}
        empty="No row has these words."
      />
      <p role="status">{said}</p>
    </>
  );
}
