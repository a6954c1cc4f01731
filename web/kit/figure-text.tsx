import { formatNumber, formatWithUncertainty } from '@dusk-tally/core/units';

/**
 * A value with its expanded uncertainty in a quieter tone, both to the digits it supports, or to the
 * decimals of the column it stands in.
 */
export function FigureText({
  value,
  U,
  unit,
  bound,
  decimals,
}: {
  value: number | null;
  U: number | null;
  unit?: string;
  bound?: string | null;
  decimals?: number;
}) {
  if (value === null) return <span className="text-quiet">–</span>;
  const shown =
    decimals !== undefined && U !== null && U > 0
      ? { value: formatNumber(value, decimals), uncertainty: formatNumber(U, decimals) }
      : formatWithUncertainty(value, U, decimals);
  return (
    <span className="tabular-nums whitespace-nowrap">
      {bound === 'atLeast' && <span className="text-quiet">at least </span>}
      {bound === 'atMost' && <span className="text-quiet">at most </span>}
      {shown.value}
      {shown.uncertainty && <span className="text-quiet"> ± {shown.uncertainty}</span>}
      {unit && <span className="text-quiet"> {unit}</span>}
    </span>
  );
}
