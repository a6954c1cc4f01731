'use client';

import { useEffect, useMemo, useState } from 'react';
import { Button } from '@/kit/button';
import { useFileDrop } from '@/kit/file-drop';
import { Input, Label } from '@/kit/form-parts';
import { Problem } from '@/kit/page';
import { useAct } from '@/kit/use-act';
import { setReportMarkAct } from './settings-acts';

/** A picture on paper, as it will stand on a report. */
function OnPaper({ src, words }: { src: string; words: string }) {
  return (
    <span className="inline-flex rounded-sm border border-rule bg-white p-2">
      <img src={src} alt={words} className="max-h-[44px] max-w-[150px]" />
    </span>
  );
}

/** A dropped file as an address a page can show. */
function useShown(file: File | null): string | null {
  const src = useMemo(() => file && URL.createObjectURL(file), [file]);
  useEffect(() => () => void (src && URL.revokeObjectURL(src)), [src]);
  return src;
}

/** The mark reports carry in their upper corner: chosen, looked at, kept with a reason. */
export function MarkForm({ mark, version }: { mark: string | null; version: number }) {
  const { run, busy, problem } = useAct();
  const [file, setFile] = useState<File | null>(null);
  const [reason, setReason] = useState('');
  const shown = useShown(file);
  const { zone, input, open, over } = useFileDrop({
    label: 'Mark for reports',
    testId: 'report-mark',
    accept: { 'image/png': [], 'image/jpeg': [], 'image/webp': [], 'image/svg+xml': [] },
    many: false,
    onFiles: ([first]) => first && setFile(first),
  });
  const keep = (picture: File | null) => {
    const data = new FormData();
    data.set('version', String(version));
    data.set('reason', reason);
    if (picture) data.set('picture', picture);
    run(
      (key) => setReportMarkAct(data, key),
      () => {
        setFile(null);
        setReason('');
      },
    );
  };
  const mayKeep = !busy && reason.trim() !== '';
  return (
    <section
      {...zone}
      role="region"
      aria-label="Mark for reports"
      className={`panel mt-4 max-w-3xl space-y-3 p-5 ${over ? 'border-ember' : ''}`}
    >
      <h2 className="font-semibold">Mark for reports</h2>
      <div className="flex flex-wrap items-center gap-3">
        {mark ? (
          <OnPaper src={mark} words="The mark reports carry now" />
        ) : (
          <span className="text-quiet">Reports carry no mark.</span>
        )}
        {input}
        <Button onClick={open}>Choose a picture</Button>
        <span className="text-quiet">or drop one: PNG, JPEG, WebP or SVG</span>
      </div>
      {shown && (
        <div className="flex flex-wrap items-center gap-3 rounded-sm bg-wash p-3">
          <OnPaper src={shown} words="The mark to come" />
          <p>Reports issued from now on carry it; issued ones keep theirs.</p>
        </div>
      )}
      {(shown || mark) && (
        <>
          <Label text="Why" className="block max-w-md">
            <Input value={reason} onChange={(event) => setReason(event.target.value)} />
          </Label>
          <div className="flex flex-wrap gap-2">
            {file && (
              <Button look="primary" disabled={!mayKeep} onClick={() => keep(file)}>
                Carry this mark
              </Button>
            )}
            {mark && (
              <Button disabled={!mayKeep} onClick={() => keep(null)}>
                Carry no mark
              </Button>
            )}
          </div>
        </>
      )}
      {problem && <Problem>{problem}</Problem>}
    </section>
  );
}
