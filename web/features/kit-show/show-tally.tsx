'use client';

import type { TallyStroke } from '@/kit/tally-layout';
import { TallyStrip } from '@/kit/tally-strip';

const FEW: TallyStroke[] = (['met', 'met', 'notMet', 'tooClose', 'held', 'untested'] as const).map(
  (mark, i) => ({
    number: `B-000${i + 1}`,
    share: mark === 'untested' ? null : 1.02 - 0.03 * i,
    mark,
    sign: null,
  }),
);

/** Shares that wander like a lot of two production days, a miss here and there. */
const MANY: TallyStroke[] = Array.from({ length: 10_000 }, (_, i) => {
  const share =
    1.03 + 0.02 * Math.sin(i / 900) + 0.015 * Math.sin(i * 1.7) - (i % 997 === 0 ? 0.1 : 0);
  return {
    number: `B-${String(i + 1).padStart(5, '0')}`,
    share: i > 8_600 ? null : share,
    mark: i > 8_600 ? 'untested' : share < 1 ? 'notMet' : 'met',
    sign: i === 4_321 ? 'stop' : i % 1_500 === 7 ? 'note' : null,
  };
});

/** The same picture of six cells and of ten thousand. */
export const ShowTally = ({ many = false }: { many?: boolean }) => (
  <TallyStrip rowHeight={56} strokes={many ? MANY : FEW} />
);
