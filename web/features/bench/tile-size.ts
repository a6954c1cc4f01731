'use client';

import { type RefObject, useEffect, useState } from 'react';

/** Sizes of a channel's tile, largest first: least width and height with the gap around it, px. */
export const TILE_SIZES = {
  large: { width: 250, height: 152 },
  small: { width: 178, height: 138 },
  tiny: { width: 112, height: 74 },
} as const;
export type TileSize = keyof typeof TILE_SIZES;
const GAP = 8;

/**
 * The largest tiles of which all fit on one screen; the smallest where none do.
 * @param count how many tiles.
 * @param room width and height there is for them, px.
 */
export function tileSizeFor(
  count: number,
  { width, height }: { width: number; height: number },
): TileSize {
  const fits = (Object.keys(TILE_SIZES) as TileSize[]).find((size) => {
    const tile = TILE_SIZES[size];
    const columns = Math.max(1, Math.floor((width + GAP) / (tile.width + GAP)));
    return Math.ceil(count / columns) * tile.height <= height;
  });
  return fits ?? 'tiny';
}

/** Height of a row of free channels, px, and how many stand in one. */
const FREE_ROW = 38;
const FREE_IN_ROW = 5;

/** Room below this is not worth counting on: what is above the tiles fills the screen, px. */
const LEAST_HEIGHT = 300;

/**
 * Size of tiles by the room a screen leaves below where they begin; renewed as it changes.
 * @param free channels without a run, which are named below the tiles.
 */
export function useTileSize(
  count: number,
  free: number,
  place: RefObject<HTMLElement | null>,
): TileSize {
  const [size, setSize] = useState<TileSize>(() =>
    tileSizeFor(count, { width: 1024, height: 620 }),
  );
  useEffect(() => {
    const measure = () => {
      const box = place.current?.getBoundingClientRect();
      if (!box) return;
      const top = box.top + window.scrollY;
      setSize(
        tileSizeFor(count, {
          width: box.width,
          height: Math.max(
            LEAST_HEIGHT,
            window.innerHeight - top - Math.ceil(free / FREE_IN_ROW) * FREE_ROW,
          ),
        }),
      );
    };
    measure();
    const watcher = new ResizeObserver(measure);
    watcher.observe(document.body);
    window.addEventListener('resize', measure);
    return () => {
      watcher.disconnect();
      window.removeEventListener('resize', measure);
    };
  }, [count, free, place]);
  return size;
}
