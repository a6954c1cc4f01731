'use client';

import type { MeterPreview } from '@dusk-tally/lab/evidence';
import { useFetched } from '@/lib/use-fetched';
import { useWatch } from 'react-hook-form';
import { DayField } from '@/kit/form/fields';
import { useLabDay } from '@/kit/lab-time';
import { previewMeterChangeAct } from './acts';

/** What would be computed again, and what would not, in a sentence. */
function previewWords({ runs, readings, lots, earlier }: MeterPreview): string {
  const counted = (n: number, one: string) => (n > 0 ? [`${n} ${one}${n === 1 ? '' : 's'}`] : []);
  const what = [...counted(runs, 'run'), ...counted(readings, 'reading')].join(' and ');
  const again =
    what === ''
      ? 'Nothing of that day or later is computed again'
      : `${what} of that day and later, in ${lots} ${lots === 1 ? 'lot' : 'lots'}, computed again`;
  return `${again}${earlier > 0 ? `; ${earlier} of earlier days ${earlier === 1 ? 'keeps' : 'keep'} what held then` : ''}. Issued reports do not change.`;
}

/** From which day on a change holds, and what it would compute again, said before it is made. */
export function HoldsFrom({
  instrumentId,
  channelId,
}: {
  instrumentId: number;
  channelId: number | null;
}) {
  const labDay = useLabDay();
  const typed = useWatch({ name: 'holdsFrom' }) as string | null;
  const day = typed ?? labDay(new Date());
  const isDay = /^\d{4}-\d{2}-\d{2}$/.test(day);
  const { data } = useFetched({
    queryKey: ['meter-change', instrumentId, channelId, day],
    enabled: isDay,
    queryFn: () => previewMeterChangeAct({ instrumentId, channelId, holdsFrom: day }),
  });
  const preview = data?.ok ? data.data : null;
  return (
    <div className="grid items-end gap-3 sm:grid-cols-[14rem_1fr]">
      <DayField name="holdsFrom" label="Holds from; empty is today" />
      <p role="status" className="rounded-sm bg-wash p-2 text-[0.9rem]">
        {preview
          ? previewWords(preview)
          : 'What was measured that day and later is computed again; the rest keeps what held then.'}
      </p>
    </div>
  );
}
