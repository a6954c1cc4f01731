'use client';

import { useQuery } from '@tanstack/react-query';
import { useWatch } from 'react-hook-form';
import { DayField } from '@/kit/form/fields';
import { useLabDay } from '@/kit/lab-time';
import { previewMeterChangeAct } from './acts';

const runs = (n: number) => `${n} ${n === 1 ? 'run' : 'runs'}`;

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
  const { data } = useQuery({
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
          ? `${runs(preview.runs)}${preview.runs > 0 ? ` in ${preview.lots} ${preview.lots === 1 ? 'lot' : 'lots'}` : ''} of that day and later ${preview.runs === 1 ? 'is' : 'are'} computed again${preview.earlier > 0 ? `; ${runs(preview.earlier)} of earlier days ${preview.earlier === 1 ? 'keeps' : 'keep'} what held then` : ''}. Issued reports do not change.`
          : 'Runs of that day and later are computed again; earlier ones keep what held then.'}
      </p>
    </div>
  );
}
