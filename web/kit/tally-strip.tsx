'use client';

import { useRouter } from 'next/navigation';
import { type KeyboardEvent, type PointerEvent, useEffect, useMemo, useRef, useState } from 'react';
import {
  againstClaim,
  bunchStrokes,
  layoutTally,
  MARK_WORDS,
  SIGN_WORDS,
  SIGNS,
  type TallyLayout,
  type TallyStroke,
} from './tally-layout';
import {
  chosenPath,
  COLOUR,
  countsInWords,
  describe,
  FULL_SIGNS,
  markPath,
  SIGN_COLOUR,
  signPath,
  signPaths,
  strokePaths,
} from './tally-marks';

function Strokes({ strokes, layout }: { strokes: TallyStroke[]; layout: TallyLayout }) {
  const drawn = useMemo(() => strokePaths(strokes, layout), [strokes, layout]);
  const signs = useMemo(() => signPaths(strokes, layout), [strokes, layout]);
  const thickness = Math.max(1.2, Math.min(4, layout.pitch * 0.42));
  const feet = Array.from(
    { length: layout.rows },
    (_, row) => layout.placed[row * layout.perRow]?.base ?? 0,
  );
  const right =
    Math.max(...layout.placed.slice(0, layout.perRow).map((at) => at.x)) + layout.pitch * 0.6;
  const hasClaim = againstClaim(strokes);
  return (
    <>
      {hasClaim && (
        <path
          d={feet.map((foot) => `M0 ${foot - layout.claimHeight}H${right}`).join('')}
          stroke="var(--ember)"
          strokeWidth={1}
          strokeDasharray="4 3"
          opacity={0.75}
        />
      )}
      {drawn.map(({ mark, lines, marks }) => (
        <g key={mark} stroke={COLOUR[mark]} fill="none">
          <path
            d={lines}
            strokeWidth={thickness}
            strokeDasharray={mark === 'notComparable' ? '3 2' : undefined}
            strokeLinecap="round"
          />
          {marks !== '' && <path d={marks} strokeWidth={1.3} />}
        </g>
      ))}
      {signs.map(([sign, d]) => (
        <path
          key={sign}
          d={d}
          stroke={SIGN_COLOUR[sign]}
          strokeWidth={1.2}
          fill={FULL_SIGNS.has(sign) ? SIGN_COLOUR[sign] : 'none'}
        />
      ))}
    </>
  );
}

/** The strip in a list: fixed size, read as one picture. */
export function TallyThumb({
  strokes,
  width = 300,
  height = 26,
}: {
  strokes: TallyStroke[];
  width?: number;
  height?: number;
}) {
  const bunched = bunchStrokes(strokes, 85);
  const layout = layoutTally(bunched, width, height, 8);
  return (
    <svg
      role="img"
      aria-label={`${strokes.length} cells: ${countsInWords(strokes)}`}
      width={width}
      height={height}
      viewBox={`0 0 ${width} ${height}`}
    >
      <Strokes strokes={bunched} layout={layout} />
    </svg>
  );
}

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

/** The lot's main picture: hover, arrow keys or a scan pick a cell; Enter or a click opens it. */
export function TallyStrip({
  strokes,
  rowHeight = 64,
  selected,
  chosen,
  onPick,
}: {
  strokes: TallyStroke[];
  rowHeight?: number;
  selected?: string;
  /** Numbers of the cells that are picked out, when the strip is a selector. */
  chosen?: ReadonlySet<string>;
  /** Picks a cell instead of opening it; with Shift everything from the last one on. */
  onPick?: (number: string, upTo: boolean) => void;
}) {
  const router = useRouter();
  const { ref, width } = useWidth(1100);
  const [picked, setPicked] = useState(() =>
    Math.max(
      0,
      strokes.findIndex((stroke) => stroke.number === selected),
    ),
  );
  const [active, setActive] = useState(selected !== undefined);
  const many = strokes.length > 600;
  const layout = useMemo(
    () => layoutTally(strokes, width, many ? 20 : rowHeight),
    [strokes, width, rowHeight, many],
  );
  const at = layout.placed[picked];
  const scroller = useRef<HTMLDivElement>(null);
  const stroke = strokes[picked];
  const [byKey, setByKey] = useState(false);
  const pickedFoot = at?.base ?? 0;
  useEffect(() => {
    // Many rows stand in a box of their own; the keyboard's pick is brought into its middle.
    const box = scroller.current;
    if (byKey && box) box.scrollTop = pickedFoot - box.clientHeight / 2;
  }, [byKey, pickedFoot]);
  const open = (upTo = false) => {
    if (!stroke) return;
    if (onPick) onPick(stroke.number, upTo);
    else router.push(`/cells/${stroke.number}`);
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const steps: Record<string, number> = {
      ArrowRight: 1,
      ArrowLeft: -1,
      ArrowDown: layout.rows > 1 ? layout.perRow : 5,
      ArrowUp: layout.rows > 1 ? -layout.perRow : -5,
      PageDown: 50,
      PageUp: -50,
      Home: -Infinity,
      End: Infinity,
    };
    if (event.key === 'Enter' || (event.key === ' ' && onPick)) open(event.shiftKey);
    else if (event.key in steps)
      setPicked((now) => Math.max(0, Math.min(strokes.length - 1, now + steps[event.key]!)));
    else return;
    event.preventDefault();
    setActive(true);
    setByKey(true);
  };
  const onPointer = (event: PointerEvent<SVGSVGElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    const row = Math.floor(((event.clientY - box.top) / box.height) * layout.rows);
    const x = event.clientX - box.left;
    const from = Math.max(0, row) * layout.perRow;
    let best = Math.min(from, strokes.length - 1);
    for (let i = from; i < Math.min(strokes.length, from + layout.perRow); i++) {
      if (Math.abs(layout.placed[i]!.x - x) < Math.abs(layout.placed[best]!.x - x)) best = i;
    }
    setPicked(best);
    setByKey(false);
    setActive(true);
  };
  if (strokes.length === 0) return null;
  return (
    <div ref={ref}>
      <div
        ref={scroller}
        role="slider"
        tabIndex={0}
        aria-label="Tally of the lot, one stroke per cell"
        aria-valuemin={1}
        aria-valuemax={strokes.length}
        aria-valuenow={picked + 1}
        aria-valuetext={stroke ? describe(stroke) : undefined}
        onKeyDown={onKeyDown}
        className={`cursor-pointer rounded-sm ${many ? 'max-h-44 overflow-y-auto' : ''}`}
        data-testid="tally-strip"
      >
        <svg
          width={width}
          height={layout.height}
          onPointerMove={onPointer}
          onClick={(event) => open(event.shiftKey)}
          aria-hidden
        >
          {chosen && chosen.size > 0 && (
            <path
              d={chosenPath(strokes, chosen, layout)}
              fill="var(--ember-wash)"
              stroke="var(--ember)"
              strokeWidth={0.8}
            />
          )}
          {active && at && (
            <rect
              x={at.x - Math.max(3, layout.pitch / 2)}
              y={at.base - layout.rowHeight + Math.max(9, layout.rowHeight * 0.2)}
              width={Math.max(6, layout.pitch)}
              height={layout.rowHeight}
              fill="var(--ember-wash)"
              rx={2}
            />
          )}
          <Strokes strokes={strokes} layout={layout} />
        </svg>
      </div>
      <p
        className="mt-1 flex min-h-5 flex-wrap justify-between gap-x-4 text-[0.82rem] text-quiet"
        aria-live="polite"
      >
        <span>
          {active && stroke
            ? describe(stroke)
            : `${strokes.length} cells: ${countsInWords(strokes)}`}
        </span>
        <TallyKey strokes={strokes} />
      </p>
    </div>
  );
}

/** What the marks mean, only those that occur. */
function TallyKey({ strokes }: { strokes: TallyStroke[] }) {
  const present = (['notMet', 'tooClose', 'atLeast', 'notComparable', 'untested'] as const).filter(
    (mark) => strokes.some((stroke) => stroke.mark === mark),
  );
  const at = { x: 5, base: 9, height: 8 };
  return (
    <span className="flex flex-wrap gap-x-3" aria-hidden>
      {present.map((mark) => (
        <span key={mark} className="inline-flex items-center gap-1">
          <svg width={10} height={18}>
            <path
              d={`M5 9v${mark === 'untested' ? -2 : -8}`}
              stroke={COLOUR[mark]}
              strokeWidth={2}
              strokeDasharray={mark === 'notComparable' ? '3 2' : undefined}
            />
            <path d={markPath(mark, at, 5)} stroke={COLOUR[mark]} strokeWidth={1.3} fill="none" />
          </svg>
          {MARK_WORDS[mark]}
        </span>
      ))}
      {SIGNS.filter((sign) => strokes.some((stroke) => stroke.sign === sign)).map((sign) => (
        <span key={sign} className="inline-flex items-center gap-1">
          <svg width={10} height={18}>
            <path
              d={signPath(sign, 5, 9, 7)}
              stroke={SIGN_COLOUR[sign]}
              fill={FULL_SIGNS.has(sign) ? SIGN_COLOUR[sign] : 'none'}
            />
          </svg>
          {SIGN_WORDS[sign]}
        </span>
      ))}
      {againstClaim(strokes) && (
        <span className="inline-flex items-center gap-1">
          <svg width={16} height={18}>
            <path d="M0 9h16" stroke="var(--ember)" strokeDasharray="4 3" />
          </svg>
          claim
        </span>
      )}
    </span>
  );
}
