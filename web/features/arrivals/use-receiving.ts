'use client';

import { useEffect, useState } from 'react';
import { useCalmRefresh } from '@/lib/use-calm-refresh';
import { useSendQueue } from '@/lib/use-send-queue';

export interface ReceivingEntry {
  field: string;
  value: unknown;
}
interface Held {
  clientKey: string;
  entries: ReceivingEntry[];
}

/** Enters what is counted, weighed or decided; held in the browser while there is no connection. */
export function useReceiving(lotId: number) {
  const refresh = useCalmRefresh();
  const [problem, setProblem] = useState<string | null>(null);
  const { state, push, restore } = useSendQueue<Held>({
    what: `receiving:${lotId}`,
    url: `/api/lots/${lotId}/receiving`,
    pack: ([first]) => ({ batch: [first!], body: first }),
    onReply: () => {
      setProblem(null);
      refresh();
    },
    onRefused: (_entry, message) => setProblem(message),
  });
  useEffect(() => {
    restore();
  }, [restore]);
  return {
    state,
    busy: state.kind === 'sending',
    problem,
    enter: (entries: ReceivingEntry[]) => push([{ clientKey: crypto.randomUUID(), entries }]),
  };
}
