/** Narrow no-break space, the thousands separator used everywhere. */
const THIN_SPACE = '\u202f';

/**
 * Decimals that show `uncertainty` with two significant digits; 0 to 6.
 * @example decimalsForUncertainty(0.0123) // 3
 */
export function decimalsForUncertainty(uncertainty: number): number {
  if (!(uncertainty > 0) || !Number.isFinite(uncertainty)) return 3;
  return Math.min(6, Math.max(0, 1 - Math.floor(Math.log10(uncertainty))));
}

/** Fixed decimals with a real minus sign and thin spaces between thousands. */
export function formatNumber(value: number, decimals: number): string {
  if (!Number.isFinite(value)) return '—';
  const [whole = '0', fraction] = Math.abs(value).toFixed(decimals).split('.');
  const grouped = whole.length > 4 ? whole.replace(/\B(?=(\d{3})+$)/g, THIN_SPACE) : whole;
  const body = fraction === undefined ? grouped : `${grouped}.${fraction}`;
  return value < 0 && Number(body.replace(/\D/g, '')) !== 0 ? `\u2212${body}` : body;
}

/**
 * A value and its expanded uncertainty, both to the digits the uncertainty supports.
 * @example formatWithUncertainty(101.2345, 0.823) // { value: '101.23', uncertainty: '0.82' }
 */
export function formatWithUncertainty(
  value: number,
  expanded: number | null,
  fallbackDecimals = 3,
): { value: string; uncertainty: string | null } {
  if (expanded === null || !(expanded > 0)) {
    return { value: formatNumber(value, fallbackDecimals), uncertainty: null };
  }
  const decimals = decimalsForUncertainty(expanded);
  return { value: formatNumber(value, decimals), uncertainty: formatNumber(expanded, decimals) };
}

/**
 * Seconds as people say them: `5 h 04 min`, `12 min`, `38 s`.
 * @example formatDuration(5400) // '1 h 30 min'
 */
export function formatDuration(durationS: number): string {
  if (durationS < 90) return `${Math.round(durationS)} s`;
  const minutes = Math.round(durationS / 60);
  if (minutes < 60) return `${minutes} min`;
  const hours = Math.floor(minutes / 60);
  return `${hours} h ${String(minutes % 60).padStart(2, '0')} min`;
}
