'use client';

import { useQuery } from '@tanstack/react-query';
import { X } from 'lucide-react';
import Link from 'next/link';
import { Dialog } from 'radix-ui';
import { useAddress } from '@/lib/use-address';
import { type Trail, TrailContent } from './trail-content';
import { QUANTITY_WORDS } from '@/kit/quantity-words';

async function fetchTrail(id: string): Promise<Trail> {
  const body = (await (await fetch(`/api/figures/${id}`)).json()) as {
    ok: boolean;
    data: Trail;
    message?: string;
  };
  if (!body.ok) throw new Error(body.message);
  return body.data;
}

/** How a figure came about, beside any page whose address ends in `?figure=…`. */
export function TrailPanel() {
  const { query, set } = useAddress();
  const id = query.get('figure');
  const { data, error } = useQuery({
    queryKey: ['figure', id],
    enabled: id !== null,
    queryFn: () => fetchTrail(id!),
  });
  const close = () => set({ figure: null });
  return (
    <Dialog.Root open={id !== null} onOpenChange={(open) => !open && close()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-30 bg-black/30" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed inset-y-0 right-0 z-40 w-[min(480px,100vw)] overflow-y-auto border-l border-strong-rule bg-sheet p-5 shadow-xl"
          data-testid="trail"
        >
          <div className="flex items-start justify-between gap-3">
            <Dialog.Title className="font-semibold">
              {data ? (
                <>
                  {QUANTITY_WORDS[data.figure.quantity]} of{' '}
                  <Link href={`/cells/${data.cell}`} className="underline">
                    {data.cell}
                  </Link>
                </>
              ) : (
                'Trail'
              )}
            </Dialog.Title>
            <Dialog.Close className="rounded-sm p-1.5 hover:bg-wash" aria-label="Close the trail">
              <X size={18} />
            </Dialog.Close>
          </div>
          {error ? (
            <p role="alert">{error.message}</p>
          ) : data ? (
            <>
              <TrailContent trail={data} />
              <p className="mt-5">
                <Link href={`/figures/${data.id}`} className="underline">
                  As a page, to print
                </Link>
              </p>
            </>
          ) : (
            <p className="text-quiet">Reading …</p>
          )}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
