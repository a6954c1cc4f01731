'use client';

import { Link } from '@/kit/link';
import { DataTable } from '@/kit/data-table/data-table';
import type { DataColumn } from '@/kit/data-table/columns';
import { ROW_TALLY, type Thumb, ThumbPicture } from '@/kit/tally-strokes';
import type { ArrivalWords } from './arrival-words';

/** A lot as a row of the list. */
export interface LotRowView {
  code: string;
  title: string;
  supplier: string;
  model: string;
  arrivedOn: string | null;
  quantity: number;
  tested: number;
  calledOff: boolean;
  thumb: Thumb;
  arrival: ArrivalWords;
}

const COLUMNS: DataColumn<LotRowView>[] = [
  {
    key: 'lot',
    head: 'Lot',
    width: 265,
    plain: ({ title, code, model, supplier }) => `${title} ${code} ${model} ${supplier}`,
    cell: ({ title, code, model, supplier }) => (
      <>
        <Link
          href={`/lots/${code}`}
          className="block truncate font-medium hover:underline"
          title={title}
        >
          {title}
        </Link>
        <span className="block truncate text-[0.82rem] text-quiet">
          {code}, {model}, {supplier}
        </span>
      </>
    ),
  },
  {
    key: 'tally',
    head: 'Tally',
    width: 300,
    grows: true,
    unsorted: true,
    plain: ({ thumb }) => thumb.words,
    cell: ({ thumb }) => <ThumbPicture thumb={thumb} width={ROW_TALLY} height={40} />,
  },
  {
    key: 'supplier',
    head: 'Supplier',
    width: 160,
    hiddenAtFirst: true,
    plain: ({ supplier }) => supplier,
    cell: ({ supplier }) => supplier,
  },
  {
    key: 'model',
    head: 'Model',
    width: 140,
    hiddenAtFirst: true,
    plain: ({ model }) => model,
    cell: ({ model }) => model,
  },
  {
    key: 'arrived',
    head: 'Arrived',
    width: 116,
    plain: ({ arrivedOn }) => arrivedOn,
    cell: ({ arrivedOn }) => <span className="whitespace-nowrap">{arrivedOn ?? '–'}</span>,
  },
  {
    key: 'cells',
    head: 'Cells',
    width: 66,
    num: true,
    plain: ({ quantity }) => quantity,
    cell: ({ quantity }) => quantity,
  },
  {
    key: 'tested',
    head: 'Tested',
    width: 74,
    num: true,
    plain: ({ tested }) => tested,
    cell: ({ tested }) => tested,
  },
  {
    key: 'arrival',
    head: 'On arrival',
    width: 189,
    plain: ({ calledOff, arrival }) => (calledOff ? 'called off' : arrival.whole),
    cell: ({ code, calledOff, arrival: { steps, heldUp, whole } }) => (
      <Link
        href={`/lots/${code}/arrival`}
        title={whole}
        className="block text-[0.87rem] leading-snug hover:underline"
      >
        {heldUp.length > 0 && (
          <span className="block truncate font-medium text-doubt">
            {heldUp[0]!.words}
            {heldUp.length > 1 &&
              `, ${heldUp.slice(1).reduce((sum, { count }) => sum + count, 0)} more`}
          </span>
        )}
        <span className="block truncate">{calledOff ? 'called off' : steps}</span>
      </Link>
    ),
  },
];

const codeOf = ({ code }: LotRowView): string => code;

/** Lots as rows, each with its tally. */
export function LotsTable({ lots }: { lots: readonly LotRowView[] }) {
  return (
    <DataTable
      name="lots"
      label="Lots"
      rows={lots}
      rowId={codeOf}
      columns={COLUMNS}
      rowHeight={58}
      empty="No lot has these words."
    />
  );
}
