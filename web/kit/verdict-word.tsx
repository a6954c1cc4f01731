import {
  Check,
  CircleDashed,
  CirclePause,
  Equal,
  Hourglass,
  Minus,
  Ruler,
  TriangleAlert,
  X,
} from 'lucide-react';

/** Each verdict as word and sign. */
export const VERDICT_NAMES = {
  met: { word: 'met', icon: Check, tone: 'text-met' },
  notMet: { word: 'not met', icon: X, tone: 'text-missed' },
  tooClose: { word: 'too close to call', icon: Equal, tone: 'text-doubt' },
  notComparable: { word: 'not comparable', icon: TriangleAlert, tone: 'text-quiet' },
  held: { word: 'held', icon: CirclePause, tone: 'text-doubt' },
  contradicted: { word: 'contradicted', icon: X, tone: 'text-missed' },
  nothingAgainst: { word: 'nothing speaks against it', icon: Minus, tone: 'text-quiet' },
  described: { word: 'described', icon: Ruler, tone: 'text-quiet' },
  waitingFor: { word: 'waiting', icon: Hourglass, tone: 'text-quiet' },
  notClaimed: { word: 'not claimed', icon: CircleDashed, tone: 'text-quiet' },
  atLeast: { word: 'at least; open', icon: CircleDashed, tone: 'text-doubt' },
  atMost: { word: 'at most; open', icon: CircleDashed, tone: 'text-doubt' },
  open: { word: 'open', icon: CircleDashed, tone: 'text-quiet' },
} as const;

/** A verdict as sign and word. */
export function VerdictWord({ verdict }: { verdict: keyof typeof VERDICT_NAMES }) {
  const { word, icon: Icon, tone } = VERDICT_NAMES[verdict];
  return (
    <span className={`inline-flex items-center gap-1 whitespace-nowrap ${tone}`}>
      <Icon size={14} aria-hidden />
      {word}
    </span>
  );
}
