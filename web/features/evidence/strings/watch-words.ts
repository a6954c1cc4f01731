import { shareAbove, type StringWatch } from '@dusk-tally/core/evidence';
import { formatDuration } from '@dusk-tally/core/units';

export const percent = (share: number): string =>
  `${(100 * share).toFixed(share > 0 && share < 0.0995 ? 1 : 0)} %`;

/** What a watch tells, line by line: what it is, and the figure. */
export const watchFacts = (
  watch: StringWatch,
  balanceMv: number,
): readonly (readonly [what: string, figure: string])[] => {
  const { spread, nearFull } = watch;
  return [
    ['Watched', formatDuration(watch.seconds)],
    ['Spread, median', `${spread.medianMv.toFixed(1)} mV`],
    ['Spread, highest', `${spread.highestMv.toFixed(1)} mV`],
    [
      `Balancing from ${balanceMv} mV`,
      `${percent(shareAbove(watch.spreadSeconds, balanceMv))} of it`,
    ],
    [
      `Mean at ${watch.aboveV.toFixed(2)} V or above`,
      nearFull ? formatDuration(nearFull.seconds) : 'never',
    ],
    ...(nearFull
      ? ([
          ['Evenness, highest', nearFull.evenHighest.toFixed(2)],
          ['Evenness, lowest', nearFull.evenLowest.toFixed(2)],
        ] as const)
      : []),
  ];
};

const clockOf = (seconds: number): string => formatDuration(seconds);

/** Cells whose wire shows what no cell does, as sentences; they are left out of every figure. */
export const offWireWords = ({ offWires, seconds }: StringWatch, names: readonly string[]) =>
  offWires.map(
    (one) =>
      `${names[one.cell]} shows ${one.showsV.toFixed(3)} V ${one.seconds >= 0.99 * seconds ? 'all the time' : `for ${formatDuration(one.seconds)}`}: no cell in use does. Its wire is off, or on another place; it is in no figure here.`,
  );

/** Stretches without readings, as a sentence; empty without any. */
export function holeWords({ holes }: StringWatch): string {
  if (holes.length === 0) return '';
  const longest = holes.reduce((a, b) => (b.toS - b.fromS > a.toS - a.fromS ? b : a));
  const span = `${formatDuration(longest.toS - longest.fromS)} from ${clockOf(longest.fromS)} on`;
  return holes.length === 1
    ? `No readings for ${span}: nobody knows who led there.`
    : `${holes.length} stretches without readings, the longest ${span}: nobody knows who led there.`;
}

/** Who stands out, as a sentence; what may be said instead. */
export function standOutWords(watch: StringWatch, names: readonly string[]): string {
  const { nearFull } = watch;
  if (!nearFull)
    return `The mean never reached ${watch.aboveV.toFixed(2)} V here: where differences appear, nothing was seen.`;
  if (nearFull.standOut.length === 0) return 'The cells take turns: none stands out.';
  return `${nearFull.standOut.map(({ cell, why }) => `${names[cell]} is ${why}`).join('; ')}.`;
}
