'use client';

import { useQuery } from '@tanstack/react-query';
import { Link } from '@/kit/link';
import { Side } from '@/kit/panel-over';
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
  return (
    <Side
      open={id !== null}
      onClose={() => set({ figure: null })}
      closeLabel="Close the trail"
      testId="trail"
      title={
        data ? (
          <>
            {QUANTITY_WORDS[data.figure.quantity]} of{' '}
            <Link href={`/cells/${data.cell}`} className="underline">
              {data.cell}
            </Link>
          </>
        ) : (
          'Trail'
        )
      }
    >
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
    </Side>
  );
}
