'use client';

import type { ReactNode, RefObject } from 'react';
import { onDemand } from '../on-demand';

/** So many rows are drawn as they are; of longer tables only those in sight, once what does that has come. */
const FEW_ROWS = 60;
/** Drawn of a long table until then: what fits a screen. */
const FIRST_ROWS = 24;
const useWindow = onDemand(() => import('./windowed-rows'));

/** The rows of a table, each at its height. */
export function TableBody({
  count,
  rowHeight,
  minWidth,
  scroller,
  draw,
}: {
  count: number;
  /** px. */
  rowHeight: number;
  /** px. */
  minWidth: number;
  scroller: RefObject<HTMLElement | null>;
  draw: (row: number) => ReactNode;
}) {
  const isLong = count > FEW_ROWS;
  const inSight = useWindow(isLong);
  const first = Math.min(count, isLong ? FIRST_ROWS : FEW_ROWS);
  return (
    <div style={{ height: count * rowHeight, minWidth }} className="relative" role="rowgroup">
      {inSight ? (
        <inSight.WindowedRows count={count} rowHeight={rowHeight} scroller={scroller} draw={draw} />
      ) : (
        Array.from({ length: first }, (_, row) => draw(row))
      )}
    </div>
  );
}
