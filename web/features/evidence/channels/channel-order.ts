import type { ChannelState } from '@dusk-tally/lab/evidence';

/** How much a channel wants a look: held back, out of calibration, known to read wrong, and so on. */
function concern({ held, calibration, effect }: ChannelState): number {
  if (held) return 5;
  if (calibration === 'overdue') return 4;
  if (effect?.corrects) return 3;
  if (calibration === 'dueSoon') return 2;
  return effect ? 1 : 0;
}

/** Channels, the worst first; of as bad those that read further off, then the busier ones. */
export const worstFirst = <C extends ChannelState>(channels: readonly C[]): C[] =>
  [...channels].sort(
    (a, b) =>
      concern(b) - concern(a) ||
      Math.abs(b.effect?.shrunk ?? 0) - Math.abs(a.effect?.shrunk ?? 0) ||
      b.runs - a.runs ||
      a.title.localeCompare(b.title, 'en', { numeric: true }),
  );
