import { Check, CircleDashed, CirclePause, Equal, TriangleAlert, X } from 'lucide-react';

const WORDS = {
  met: { word: 'met', icon: Check, tone: 'text-met' },
  notMet: { word: 'not met', icon: X, tone: 'text-missed' },
  tooClose: { word: 'too close to call', icon: Equal, tone: 'text-doubt' },
  notComparable: { word: 'not comparable', icon: TriangleAlert, tone: 'text-quiet' },
  held: { word: 'held', icon: CirclePause, tone: 'text-doubt' },
  open: { word: 'open', icon: CircleDashed, tone: 'text-quiet' },
} as const;

/** A verdict as sign and word. */
export function VerdictWord({ verdict }: { verdict: keyof typeof WORDS }) {
  const { word, icon: Icon, tone } = WORDS[verdict];
  return (
    <span className={`inline-flex items-center gap-1 whitespace-nowrap ${tone}`}>
      <Icon size={14} aria-hidden />
      {word}
    </span>
  );
}
