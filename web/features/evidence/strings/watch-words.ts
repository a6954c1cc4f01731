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

/** Who stands out, as a sentence; what may be said instead. */
export function standOutWords(watch: StringWatch, names: readonly string[]): string {
  const { nearFull } = watch;
  if (!nearFull)
    return `The mean never reached ${watch.aboveV.toFixed(2)} V here: where differences appear, nothing was seen.`;
  if (nearFull.standOut.length === 0) return 'The cells take turns: none stands out.';
  return `${nearFull.standOut.map(({ cell, why }) => `${names[cell]} is ${why}`).join('; ')}.`;
}
