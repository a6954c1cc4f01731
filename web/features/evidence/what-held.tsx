'use client';

import type { meterHistory } from '@dusk-tally/lab/evidence';
import { Button } from '@/kit/button';
import { useFetched } from '@/lib/use-fetched';

/** What held of an instrument or a channel from a day on. */
export type HeldPeriod = Awaited<ReturnType<typeof meterHistory>>[number];

/** @throws Error without a connection, or where the server refuses. */
async function historyOf(instrumentId: number, channelId: number | null): Promise<HeldPeriod[]> {
  const asked = new URLSearchParams({ instrument: String(instrumentId) });
  if (channelId !== null) asked.set('channel', String(channelId));
  const response = await fetch(`/api/meters/history?${asked}`);
  if (!response.ok) throw new Error('What held could not be fetched.');
  return ((await response.json()) as { data: HeldPeriod[] }).data;
}

const datesOf = ({ calibratedOn, dueOn }: HeldPeriod['data']): string =>
  [calibratedOn && `calibrated on ${calibratedOn}`, dueOn && `due on ${dueOn}`]
    .filter(Boolean)
    .join(', ') || 'no dates';

/**
 * What held, and since when, the newest first; an earlier mistake is mended from here.
 * @param mend puts what held then into the form, to hold from that day once more.
 */
export function WhatHeld({
  instrumentId,
  channelId,
  mend,
}: {
  instrumentId: number;
  channelId: number | null;
  mend: (period: HeldPeriod) => void;
}) {
  const { data } = useFetched({
    queryKey: ['meter-history', instrumentId, channelId],
    // What was kept a moment ago is asked for anew.
    staleTime: 0,
    gcTime: 0,
    queryFn: () => historyOf(instrumentId, channelId),
  });
  const periods = data ?? [];
  if (periods.length < 2) return null;
  return (
    <section aria-label="What held" className="mt-3">
      <h3 className="font-semibold">What held, and since when</h3>
      <ul className="mt-1 space-y-0.5">
        {periods.map((period, i) => (
          <li key={period.id} className="flex flex-wrap items-center gap-x-3">
            <span className="w-36">
              {i === periods.length - 1 ? 'from the beginning' : `since ${period.holdsFrom}`}
            </span>
            <span className="text-quiet">
              {datesOf(period.data)}; {period.reason}
            </span>
            <Button
              look="bare"
              aria-label={`Mend what held ${i === periods.length - 1 ? 'from the beginning' : `since ${period.holdsFrom}`}`}
              onClick={() => mend(period)}
            >
              Mend this …
            </Button>
          </li>
        ))}
      </ul>
    </section>
  );
}
