'use client';

import { useVirtualizer } from '@tanstack/react-virtual';
import type { ReactNode, RefObject } from 'react';

/** The rows of a long table that are in sight, and some around them. */
export function WindowedRows({
  count,
  rowHeight,
  scroller,
  draw,
}: {
  count: number;
  /** px. */
  rowHeight: number;
  scroller: RefObject<HTMLElement | null>;
  draw: (row: number) => ReactNode;
}) {
  // The compiler does not know the virtualizer; its functions are read afresh at each render.
  const virtual = useVirtualizer({
    count,
    getScrollElement: () => scroller.current,
    estimateSize: () => rowHeight,
    overscan: 12,
  });
  return virtual.getVirtualItems().map(({ index }) => draw(index));
}
