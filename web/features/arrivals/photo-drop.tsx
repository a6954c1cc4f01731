'use client';

import type { PhotoView } from '@dusk-tally/lab/arrivals';
import { Camera } from 'lucide-react';
import { useRouter } from 'next/navigation';
import { useCallback, useState } from 'react';
import { Button } from '@/kit/button';
import { Problem } from '@/kit/page';
import { PhotoList } from './photo-list';
import { usePastedPictures } from './use-pasted-pictures';
import { useFileDrop } from '@/kit/file-drop';

export interface PhotoSubject {
  type: PhotoView['subjectType'];
  id: number;
}

const MOST_BYTES = 15 * 1024 * 1024;

/** Photographs of one thing: dropped, pasted, chosen or taken with the tablet’s camera. */
export function PhotoDrop({
  lotId,
  subject,
  photos,
  title = 'Photographs',
  locked = null,
}: {
  lotId: number;
  subject: PhotoSubject;
  photos: PhotoView[];
  title?: string;
  /** Why none can be added yet. */
  locked?: string | null;
}) {
  const router = useRouter();
  const [sending, setSending] = useState(0);
  const [problems, setProblems] = useState<string[]>([]);
  const own = photos.filter(
    (photo) => photo.subjectType === subject.type && photo.subjectId === subject.id,
  );

  const send = useCallback(
    async (files: File[]) => {
      setProblems([]);
      const refused: string[] = [];
      setSending(files.length);
      for (const file of files) {
        if (file.size > MOST_BYTES) {
          refused.push(
            `${file.name}: expected a photograph of at most 15 MB; this has ${(file.size / 1024 / 1024).toFixed(1)} MB. It was not stored.`,
          );
        } else {
          const query = new URLSearchParams({
            of: subject.type,
            id: String(subject.id),
            name: file.name || 'pasted picture',
            key: crypto.randomUUID(),
          });
          try {
            const response = await fetch(`/api/lots/${lotId}/photos?${query}`, {
              method: 'POST',
              body: file,
            });
            const body = (await response.json()) as { ok: boolean; message?: string };
            if (!body.ok) refused.push(body.message ?? `${file.name} was not stored.`);
          } catch {
            refused.push(`${file.name}: no connection. It was not stored; drop it again.`);
          }
        }
        setSending((left) => left - 1);
      }
      setProblems(refused);
      router.refresh();
    },
    [lotId, subject.type, subject.id, router],
  );

  const { zone, input, open, over } = useFileDrop({
    label: title,
    testId: `photo-${subject.type}`,
    accept: { 'image/jpeg': [], 'image/png': [], 'image/webp': [] },
    onFiles: (files) => void send(files),
  });
  usePastedPictures(zone.ref, locked ? null : send);

  if (locked)
    return (
      <section className="panel p-4">
        <h2 className="font-semibold">{title}</h2>
        <p className="text-quiet">{locked}</p>
      </section>
    );
  return (
    <section
      {...zone}
      role="region"
      aria-label={title}
      className={`panel p-4 ${over ? 'border-ember' : ''}`}
    >
      <div className="flex flex-wrap items-center gap-3">
        <h2 className="font-semibold">{title}</h2>
        {input}
        <Button className="min-h-10" onClick={open}>
          <Camera size={16} aria-hidden /> Take or choose
        </Button>
        <span className="text-quiet" role="status">
          {sending > 0 ? `Storing ${sending} …` : 'or drop, or paste. Position data is taken out.'}
        </span>
      </div>
      {problems.map((problem) => (
        <Problem key={problem}>{problem}</Problem>
      ))}
      <PhotoList photos={own} />
    </section>
  );
}
