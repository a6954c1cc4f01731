import { niceStep } from '@dusk-tally/core/statistics';

/** Look shared by all charts. */
export const AXIS = {
  stroke: 'var(--strong-rule)',
  tick: { fill: 'var(--quiet)', fontSize: 12 },
  tickLine: false,
} as const;
export const GRID = { stroke: 'var(--rule)', vertical: false } as const;
export const CLAIM_LINE = {
  stroke: 'var(--ember)',
  strokeDasharray: '5 4',
  strokeWidth: 1.5,
} as const;
export const TOOLTIP = {
  background: 'var(--raised)',
  border: '1px solid var(--strong-rule)',
  color: 'var(--ink)',
} as const;
export const claimLabel = (text: string) => ({
  value: text,
  fill: 'var(--ember)',
  fontSize: 12,
  position: 'insideTopRight' as const,
});

/** An axis on round numbers: its domain, ticks and the decimals they need. */
export interface RoundAxis {
  domain: [number, number];
  ticks: number[];
  decimals: number;
}

/** Round ticks over a range, about `count` of them; the domain ends on ticks when `snug` is false. */
export function roundAxis(low: number, high: number, count = 7, snug = false): RoundAxis {
  const step = niceStep(Math.max(high - low, 1e-9) / count);
  const from = (snug ? Math.ceil(low / step - 1e-9) : Math.floor(low / step + 1e-9)) * step;
  const to = (snug ? Math.floor(high / step + 1e-9) : Math.ceil(high / step - 1e-9)) * step;
  const ticks = Array.from({ length: Math.round((to - from) / step) + 1 }, (_, i) =>
    Number((from + i * step).toPrecision(12)),
  );
  const decimals = Math.max(0, -Math.floor(Math.log10(step) + 1e-9));
  const ends: [number, number] = [ticks[0] ?? low, ticks[ticks.length - 1] ?? high];
  return { domain: snug ? [low, high] : ends, ticks, decimals };
}
