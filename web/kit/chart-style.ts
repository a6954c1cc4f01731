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
export const claimLabel = (text: string) => ({
  value: text,
  fill: 'var(--ember)',
  fontSize: 12,
  position: 'insideTopRight' as const,
});
