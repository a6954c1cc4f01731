import type { LotOutlook } from '@dusk-tally/lab/verdicts';
import { LabMoment } from '@/kit/lab-time';

const percent = (share: number) => `${(100 * share).toFixed(share < 0.1 ? 1 : 0)} %`;

/** What the tests so far make expect of the whole lot, and when they are done. */
export function LotOutlookLine({ outlook }: { outlook: LotOutlook }) {
  const { forecast, isDrawn, doneAt, unplanned } = outlook;
  if (!forecast) return null;
  const { share, low, high, tested, lotSize, short } = forecast;
  return (
    <p className="mt-3 max-w-[80ch]" role="status">
      After {tested} of {lotSize} results, {short} of them short or too close to call,{' '}
      <b className="tabular-nums">
        {percent(share)} of the lot ({percent(low)} to {percent(high)})
      </b>{' '}
      is expected to be short
      {isDrawn ? '' : ', if the cells tested so far are like the others'}.{' '}
      {doneAt && (
        <>
          By the plan its tests end on <LabMoment at={doneAt} />
          {unplanned > 0 ? `; for ${unplanned} cells nothing is planned.` : '.'}
        </>
      )}
    </p>
  );
}
