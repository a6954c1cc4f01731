/** One point of a comparison with a reference meter, in one unit. */
export interface CalibrationPoint {
  /** What the meter showed. */
  shown: number;
  /** What the reference said. */
  reference: number;
}

/**
 * A reading corrected by a table of points: the error is interpolated between them in a straight
 * line and held beyond the outermost ones (handbook, chapter 3, voltage check).
 * @throws RangeError for an empty table or two points with one shown value.
 * @example correctReading([{ shown: 3, reference: 3.01 }, { shown: 4, reference: 4.03 }], 3.5) // 3.52
 */
export function correctReading(points: readonly CalibrationPoint[], shown: number): number {
  const sorted = [...points].sort((a, b) => a.shown - b.shown);
  if (sorted.length === 0) throw new RangeError('Expected at least one point of comparison.');
  for (let i = 1; i < sorted.length; i++)
    if (sorted[i]!.shown === sorted[i - 1]!.shown)
      throw new RangeError(`Expected one reference value for ${sorted[i]!.shown}; found two.`);
  const error = ({ shown: at, reference }: CalibrationPoint) => reference - at;
  const above = sorted.findIndex((point) => point.shown >= shown);
  if (above === 0) return shown + error(sorted[0]!);
  if (above === -1) return shown + error(sorted[sorted.length - 1]!);
  const [low, high] = [sorted[above - 1]!, sorted[above]!];
  const share = (shown - low.shown) / (high.shown - low.shown);
  return shown + error(low) + share * (error(high) - error(low));
}

/** Where an instrument stands between two calibrations. */
export type CalibrationState = 'none' | 'valid' | 'dueSoon' | 'overdue';
/** A due date nearer than this is said beforehand, days. */
const SOON_DAYS = 30;

/**
 * Where a calibration stands on a day. Dates as `YYYY-MM-DD`.
 * @example calibrationState('2026-12-01', '2026-11-27') // 'dueSoon'
 */
export function calibrationState(dueOn: string | null, today: string): CalibrationState {
  if (dueOn === null) return 'none';
  if (today > dueOn) return 'overdue';
  return Date.parse(dueOn) - Date.parse(today) <= SOON_DAYS * 86_400_000 ? 'dueSoon' : 'valid';
}
