import type { SupplierShare } from '@dusk-tally/core/suppliers';
import { percent } from './words';

/** A share with its 95 % interval on a line from nothing to all; the mean of all suppliers as a tick. */
export function ShareLine({
  share,
  mean,
  width = 260,
}: {
  share: SupplierShare;
  /** Of all suppliers; null for none. */
  mean: number | null;
  width?: number;
}) {
  const x = (value: number) => 6 + (width - 12) * value;
  return (
    <svg
      width={width}
      height={26}
      viewBox={`0 0 ${width} 26`}
      role="img"
      aria-label={`${percent(share.share)} of claims met, between ${percent(share.low)} and ${percent(share.high)}`}
      className="max-w-full"
    >
      <line x1={x(0)} x2={x(1)} y1={13} y2={13} stroke="var(--rule)" />
      {mean !== null && (
        <line x1={x(mean)} x2={x(mean)} y1={5} y2={21} stroke="var(--ember)" strokeDasharray="3 2">
          <title>{`Mean of all: ${percent(mean)}`}</title>
        </line>
      )}
      <line
        x1={x(share.low)}
        x2={x(share.high)}
        y1={13}
        y2={13}
        stroke="var(--stroke)"
        strokeWidth={3}
        strokeLinecap="round"
      />
      <rect x={x(share.share) - 2.5} y={5} width={5} height={16} fill="var(--ink)" rx={1} />
    </svg>
  );
}
