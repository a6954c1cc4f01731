'use client';

import type { DisputeView } from '@dusk-tally/lab/disputes';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { Button } from '@/kit/button';
import { useFileDrop } from '@/kit/file-drop';
import { LabDay } from '@/kit/lab-time';
import { Problem } from '@/kit/page';

/** Papers that came in or went out, kept byte for byte. */
export function Papers({ view: { dispute, papers } }: { view: DisputeView }) {
  const router = useRouter();
  const [problem, setProblem] = useState<string | null>(null);
  const take = async (files: File[]) => {
    setProblem(null);
    for (const file of files) {
      const answer = await fetch(
        `/api/disputes/${dispute.id}/papers?name=${encodeURIComponent(file.name)}`,
        {
          method: 'POST',
          headers: { 'content-type': file.type || 'application/octet-stream' },
          body: file,
        },
      ).catch(() => null);
      const told = (await answer?.json().catch(() => null)) as { message?: string } | null;
      if (!answer?.ok)
        setProblem(told?.message ?? `${file.name}: no connection. It was not stored.`);
    }
    router.refresh();
  };
  const { zone, input, open, over } = useFileDrop({
    label: 'Papers of this dispute',
    onFiles: (files) => void take(files),
  });
  return (
    <section
      {...zone}
      // A region with its name, not a mere place to drop on.
      role={undefined}
      className={`panel p-4 ${over ? 'bg-ember-wash' : ''}`}
      aria-label="Letters and papers kept"
    >
      {input}
      <div className="flex flex-wrap items-center justify-between gap-2">
        <h3 className="font-semibold">Papers</h3>
        <Button onClick={open}>Keep a paper …</Button>
      </div>
      {problem && <Problem>{problem}</Problem>}
      <ul className="mt-2 space-y-1">
        {papers.map(({ id, name, size, who, at }) => (
          <li key={id}>
            <a href={`/api/disputes/papers/${id}`} className="underline">
              {name}
            </a>{' '}
            <span className="text-quiet">
              {Math.max(1, Math.round(size / 1024))} kB, {who}, <LabDay at={at} />
            </span>
          </li>
        ))}
        {papers.length === 0 && (
          <li className="text-quiet">Drop letters and pictures here that came in or went out.</li>
        )}
      </ul>
    </section>
  );
}
