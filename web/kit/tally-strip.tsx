'use client';

import { useRouter } from 'next/navigation';
import { type KeyboardEvent, type MouseEvent, useEffect, useMemo, useRef, useState } from 'react';
import { Button } from './button';
import { TallyKey } from './tally-key';
import {
  againstClaim,
  cellsPerStroke,
  gatherStrokes,
  layoutTally,
  type TallyLayout,
  type TallyStroke,
} from './tally-layout';
import { chosenPath, countsInWords, describeGathered } from './tally-marks';
import { Strokes } from './tally-strokes';
import { strokeAt, type TallyStep, tallyView, type TallyWalk, walkTally } from './tally-walk';

/** Width of an element as it is now. */
function useWidth(initial: number) {
  const ref = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(initial);
  useEffect(() => {
    const element = ref.current;
    if (!element) return;
    const observer = new ResizeObserver(([entry]) =>
      setWidth(Math.max(200, entry!.contentRect.width)),
    );
    observer.observe(element);
    return () => observer.disconnect();
  }, []);
  return { ref, width };
}

/** Strokes a key moves by. */
const STEPS: Record<string, number> = {
  ArrowRight: 1,
  ArrowLeft: -1,
  ArrowDown: 5,
  ArrowUp: -5,
  PageDown: 50,
  PageUp: -50,
  Home: -Infinity,
  End: Infinity,
};

function nearestStroke(event: MouseEvent<SVGSVGElement>, { placed }: TallyLayout): number {
  const x = event.clientX - event.currentTarget.getBoundingClientRect().left;
  let best = 0;
  placed.forEach((at, i) => {
    if (Math.abs(at.x - x) < Math.abs(placed[best]!.x - x)) best = i;
  });
  return best;
}

/** The tally's state: where one is, what is drawn, and what a press on a stroke does. */
function useTally({ strokes, selected, onPick, rowHeight }: TallyStripProps, width: number) {
  const router = useRouter();
  const [walk, setWalk] = useState<TallyWalk>(() => ({
    cell: Math.max(
      0,
      strokes.findIndex((stroke) => stroke.number === selected),
    ),
    opened: false,
    active: selected !== undefined,
  }));
  const count = strokes.length;
  const size = cellsPerStroke(count, width);
  const view = tallyView(walk, count, size);
  const shown = useMemo(() => strokes.slice(view.from, view.to), [strokes, view.from, view.to]);
  const gathered = useMemo(() => gatherStrokes(shown, view.size), [shown, view.size]);
  const layout = useMemo(
    () => layoutTally(gathered, width, rowHeight ?? 64),
    [gathered, width, rowHeight],
  );
  const at = strokeAt(walk, view);
  const step = (next: TallyStep) => setWalk((now) => walkTally(now, next, count, size));
  /** Picks the cells of a stroke where the strip selects; else opens the cell, or the stroke into its cells. */
  const press = (by: { upTo: boolean; picks: boolean; stroke?: number }) => {
    const stroke = gathered[by.stroke ?? at];
    if (!stroke) return;
    const own = shown.slice(stroke.from, stroke.to).map(({ number }) => number);
    if (onPick && (by.picks || own.length === 1)) onPick(own, by.upTo);
    else if (own.length > 1) step({ go: 'open' });
    else router.push(`/cells/${own[0]}`);
  };
  return { walk, view, shown, gathered, layout, at, step, press };
}

interface TallyStripProps {
  strokes: TallyStroke[];
  rowHeight?: number;
  selected?: string;
  /** Numbers of the cells that are picked out, when the strip is a selector. */
  chosen?: ReadonlySet<string>;
  /** Picks cells instead of opening one; with Shift everything from the last one on. */
  onPick?: (numbers: readonly string[], upTo: boolean) => void;
}

/**
 * The lot's main picture: hover, arrow keys or a scan pick a stroke; Enter or a click opens the
 * cell. A lot too long for a stroke each is gathered, and a gathered stroke opens into its cells.
 */
export function TallyStrip(props: TallyStripProps) {
  const { strokes, chosen, onPick } = props;
  const { ref, width } = useWidth(1100);
  const { walk, view, shown, gathered, layout, at, step, press } = useTally(props, width);
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.key === 'Enter' || (event.key === ' ' && onPick))
      press({ upTo: event.shiftKey, picks: event.key === ' ' });
    else if (event.key in STEPS) step({ go: 'by', strokes: STEPS[event.key]! });
    else if (event.key === 'Escape' && walk.opened) {
      step({ go: 'back' });
      event.stopPropagation();
    } else return;
    event.preventDefault();
  };
  if (strokes.length === 0) return null;
  const place = layout.placed[at];
  const words = gathered[at] ? describeGathered(shown, gathered[at]) : '';
  return (
    <div ref={ref}>
      <div
        role="slider"
        tabIndex={0}
        aria-label="Tally of the lot, one stroke per cell"
        aria-valuemin={1}
        aria-valuemax={strokes.length}
        aria-valuenow={walk.cell + 1}
        aria-valuetext={words}
        onKeyDown={onKeyDown}
        className="cursor-pointer rounded-sm"
        data-testid="tally-strip"
      >
        <svg
          width={width}
          height={layout.height}
          onPointerMove={(event) => step({ go: 'to', stroke: nearestStroke(event, layout) })}
          onClick={(event) =>
            press({ upTo: event.shiftKey, picks: false, stroke: nearestStroke(event, layout) })
          }
          aria-hidden
        >
          {chosen && chosen.size > 0 && (
            <path
              d={chosenPath(shown, gathered, chosen, layout)}
              fill="var(--ember-wash)"
              stroke="var(--ember)"
              strokeWidth={0.8}
            />
          )}
          {walk.active && place && (
            <rect
              x={place.x - Math.max(3, layout.pitch / 2)}
              y={0}
              width={Math.max(6, layout.pitch)}
              height={layout.height}
              fill="var(--ember-wash)"
              rx={2}
            />
          )}
          <Strokes strokes={gathered} layout={layout} claimed={againstClaim(strokes)} />
        </svg>
      </div>
      <div className="mt-1 flex min-h-5 flex-wrap items-baseline justify-between gap-x-4 text-[0.82rem] text-quiet">
        <p aria-live="polite">
          {walk.active ? words : `${strokes.length} cells: ${countsInWords(strokes)}`}
        </p>
        <span className="flex items-baseline gap-1">
          {walk.opened && view.size === 1 && view.to - view.from < strokes.length && (
            <Button
              look="bare"
              className="-my-1.5 !min-h-0 !px-1.5 !py-1 !text-[0.82rem]"
              onClick={() => step({ go: 'back' })}
            >
              All {strokes.length} cells
            </Button>
          )}
          <TallyKey strokes={strokes} size={view.size} />
        </span>
      </div>
    </div>
  );
}
