'use client';

import type { PhotoView } from '@dusk-tally/lab/arrivals';
import { useState } from 'react';
import { Button } from '@/kit/button';
import { Fold } from '@/kit/fold';
import { TextField } from '@/kit/form/fields';
import { Form } from '@/kit/form/form';
import { useLabForm } from '@/kit/form/use-lab-form';
import { LabDay } from '@/kit/lab-time';
import { Over } from '@/kit/panel-over';
import { AT_ONCE, offerUndoOf } from '@/kit/undo-toast';
import { setPhotoAsideAct } from './arrival-acts';

function MarkForm({ photo, done }: { photo: PhotoView; done: () => void }) {
  const form = useLabForm({
    schema: 'photoMarkInput',
    first: { id: photo.id, aside: photo.aside === null, reason: '' },
    act: setPhotoAsideAct,
    done: () => {
      const { id, name, aside } = photo;
      offerUndoOf(aside ? `${name} counts again.` : `${name} is set aside.`, () =>
        setPhotoAsideAct({ id, aside: aside !== null, reason: AT_ONCE }),
      );
      done();
    },
  });
  return (
    <Form of={form} act={photo.aside ? 'Take it back' : 'Set it aside'}>
      <TextField name="reason" label="Why" />
    </Form>
  );
}

function Photo({ photo }: { photo: PhotoView }) {
  const [open, setOpen] = useState(false);
  return (
    <li className="flex flex-col items-start">
      <a href={`/api/photos/${photo.id}`} target="_blank" rel="noreferrer">
        {/* Thumbnails come from our own store at their own size. */}
        <img
          src={`/api/photos/${photo.id}?size=thumb`}
          alt={`${photo.name}, by ${photo.person}`}
          className={`h-24 rounded-sm border border-rule ${photo.aside ? 'opacity-60' : ''}`}
        />
      </a>
      {photo.aside && (
        <span className="max-w-48 text-[0.82rem] text-quiet">
          {photo.aside.reason}; {photo.aside.person}, <LabDay at={photo.aside.at} />
        </span>
      )}
      <Button
        look="bare"
        className="!px-1 !text-[0.82rem]"
        aria-label={`${photo.aside ? 'Take back' : 'Set aside'} ${photo.name}`}
        onClick={() => setOpen(true)}
      >
        {photo.aside ? 'Take back …' : 'Set aside …'}
      </Button>
      <Over
        open={open}
        onOpen={setOpen}
        width={420}
        title={photo.aside ? `Take ${photo.name} back` : `Set ${photo.name} aside`}
        says={
          photo.aside
            ? 'It counts again, here and on what is made from now on.'
            : 'It is kept, shown as set aside, and counts no more.'
        }
      >
        <MarkForm photo={photo} done={() => setOpen(false)} />
      </Over>
    </li>
  );
}

/** Photographs of one thing; those set aside behind a fold. */
export function PhotoList({ photos }: { photos: readonly PhotoView[] }) {
  const counting = photos.filter(({ aside }) => aside === null);
  const aside = photos.filter((photo) => photo.aside !== null);
  return (
    <>
      {counting.length > 0 && (
        <ul className="mt-3 flex flex-wrap gap-3">
          {counting.map((photo) => (
            <Photo key={photo.id} photo={photo} />
          ))}
        </ul>
      )}
      {aside.length > 0 && (
        <Fold title={`${aside.length} set aside`}>
          <ul className="mt-1 flex flex-wrap gap-3">
            {aside.map((photo) => (
              <Photo key={photo.id} photo={photo} />
            ))}
          </ul>
        </Fold>
      )}
    </>
  );
}
