'use client';

import { CircleHelp } from 'lucide-react';
import { type ReactNode, useState } from 'react';
import { Button } from './button';
import { Beside } from './panel-over';
import { againstClaim, MARK_WORDS, SIGN_WORDS, SIGNS, type TallyStroke } from './tally-layout';
import { COLOUR, FULL_SIGNS, markPath, SIGN_COLOUR, signPath } from './tally-marks';

const MARKS = [
  'met',
  'notMet',
  'tooClose',
  'atLeast',
  'notComparable',
  'held',
  'untested',
] as const;

function Entry({
  width = 12,
  picture,
  words,
}: {
  width?: number;
  picture: ReactNode;
  words: string;
}) {
  return (
    <li className="flex items-center gap-2.5">
      <svg width={18} height={22} viewBox={`0 0 ${width} 22`} aria-hidden>
        {picture}
      </svg>
      {words}
    </li>
  );
}

/** What the strokes and marks of a tally mean, on demand: only those that occur. */
export function TallyKey({ strokes, size }: { strokes: readonly TallyStroke[]; size: number }) {
  const [open, setOpen] = useState(false);
  const marks = MARKS.filter((mark) => strokes.some((stroke) => stroke.mark === mark));
  const signs = SIGNS.filter((sign) => strokes.some((stroke) => stroke.sign === sign));
  const at = { x: 6, base: 12, height: 10, whisker: null };
  return (
    <Beside
      open={open}
      onOpen={setOpen}
      align="end"
      width="w-80"
      trigger={
        <Button look="bare" className="-my-1.5 !min-h-0 !px-1.5 !py-1 !text-[0.82rem]">
          <CircleHelp size={14} aria-hidden /> Key
        </Button>
      }
    >
      <p className="mb-1.5 font-semibold">
        {size === 1
          ? 'A stroke is a cell; its height is its capacity against the claim'
          : `A stroke is ${size} cells in order of arrival: their median, a thin line from the least to the most, the worst mark below`}
      </p>
      <ul className="space-y-0.5 text-[0.9rem]">
        {marks.map((mark) => (
          <Entry
            key={mark}
            words={MARK_WORDS[mark]}
            picture={
              <g stroke={COLOUR[mark]} fill="none">
                <path
                  d={`M6 12v${mark === 'untested' ? -2 : -10}`}
                  strokeWidth={2.4}
                  strokeDasharray={mark === 'notComparable' ? '3 2' : undefined}
                />
                <path d={markPath(mark, at, 6)} strokeWidth={1.3} />
              </g>
            }
          />
        ))}
        {signs.map((sign) => (
          <Entry
            key={sign}
            words={SIGN_WORDS[sign]}
            picture={
              <path
                d={signPath(sign, 6, 11, 8)}
                stroke={SIGN_COLOUR[sign]}
                fill={FULL_SIGNS.has(sign) ? SIGN_COLOUR[sign] : 'none'}
              />
            }
          />
        ))}
        {againstClaim(strokes) && (
          <Entry
            width={16}
            words="the claim"
            picture={<path d="M0 11h16" stroke="var(--ember)" strokeDasharray="4 3" />}
          />
        )}
      </ul>
    </Beside>
  );
}
