'use client';

import dynamic from 'next/dynamic';
import { useState } from 'react';
import { Button } from '@/kit/button';
import { Over } from '@/kit/panel-over';

/** The form comes with its first opening, not with every table of cells. */
const RestForm = dynamic(() => import('./rest-form').then((file) => file.RestForm), { ssr: false });

/** Lays chosen cells of a lot on the shelf. */
export function LayDown({
  lotId,
  cellIds,
  flat,
  done,
}: {
  lotId: number;
  cellIds: number[];
  /** Volts after full charge say little of this chemistry. */
  flat: boolean;
  done: () => void;
}) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button onClick={() => setOpen(true)}>Lay to rest …</Button>
      <Over
        open={open}
        onOpen={setOpen}
        width={620}
        title={`Lay ${cellIds.length} ${cellIds.length === 1 ? 'cell' : 'cells'} to rest`}
        says="Charged full, they stand open-circuit and are read on their day. Apart, terminals covered, nothing flammable near."
      >
        {open && (
          <RestForm
            lotId={lotId}
            cellIds={cellIds}
            flat={flat}
            done={() => {
              setOpen(false);
              done();
            }}
          />
        )}
      </Over>
    </>
  );
}
