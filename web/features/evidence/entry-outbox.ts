'use client';

import type { ReadingKind } from '@dusk-tally/lab/evidence';
import type { ReadingPurpose } from '@dusk-tally/core/arrivals';
import type { ProbePlace } from '@dusk-tally/core/verdicts';
import { useSendQueue } from '@/lib/use-send-queue';

/** A typed reading on its way to the store. */
export interface PendingReading {
  cellId: number;
  kind: ReadingKind;
  /** Null takes an earlier reading back. */
  value: number | null;
  decimals: number;
  repeats: number[] | null;
  /** Where the probes of an AC reading were. */
  probe: ProbePlace | null;
  /** What it was taken for. */
  purpose: ReadingPurpose;
  clientKey: string;
  /** Key of the reading it was typed over; null for none. */
  over: string | null;
  keptDespite: string | null;
  instrumentId: number | null;
}

const MOST_AT_ONCE = 500;

/**
 * Typed readings wait here until the server has them; those of one meter go together.
 * @param onRefused one the server will never take, with its reason and what stands there.
 * @param onStored those the server has.
 */
export function useOutbox(
  lotId: number,
  onRefused: (reading: PendingReading, message: string, current?: unknown) => void,
  onStored: (batch: readonly PendingReading[]) => void,
) {
  return useSendQueue<PendingReading>({
    what: `readings:${lotId}`,
    onRefused,
    onReply: onStored,
    url: `/api/lots/${lotId}/readings`,
    pack: (pending) => {
      const { instrumentId } = pending[0]!;
      const batch = pending
        .filter((reading) => reading.instrumentId === instrumentId)
        .slice(0, MOST_AT_ONCE);
      const readings = batch.map(({ instrumentId: _instrument, ...reading }) => reading);
      return { batch, body: { instrumentId, readings } };
    },
  });
}
