import type { TwoHumps } from '@dusk-tally/core/statistics';
import { formatNumber } from '@dusk-tally/core/units';

/** Says that a lot behaves like two, and where their middles are. */
export function HumpsNote({ humps, unit }: { humps: TwoHumps; unit: string }) {
  const [low, high] = humps.humps;
  const share = (value: number) => `${(100 * value).toFixed(0)} %`;
  return (
    <p className="panel border-doubt p-4" role="note">
      Two humps rather than one: {share(low.share)} of the cells about {formatNumber(low.mean, 3)}{' '}
      {unit} (spread {formatNumber(low.sd, 3)}), {share(high.share)} about{' '}
      {formatNumber(high.mean, 3)} {unit} (spread {formatNumber(high.sd, 3)}). Two mixtures against
      one lower the information criterion by {(humps.bicOne - humps.bicTwo).toFixed(0)}; more than
      10 counts. Look whether date, box or pack tells them apart before the mean is trusted.
    </p>
  );
}
