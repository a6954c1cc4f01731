'use client';

import { useFetched } from '@/lib/use-fetched';
import { Link } from '@/kit/link';
import { Side } from '@/kit/panel-over';
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

/** How a figure came about, at the side of a page. */
export function TrailSide({ id, onClose }: { id: string | null; onClose: () => void }) {
  const { data, error } = useFetched({
    queryKey: ['figure', id],
    enabled: id !== null,
    queryFn: () => fetchTrail(id!),
  });
  return (
    <Side
      open={id !== null}
      onClose={onClose}
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
