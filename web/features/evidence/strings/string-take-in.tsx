'use client';

import { FileUp } from 'lucide-react';
import { Link } from '@/kit/link';
import { useRouter } from 'next/navigation';
import { useRef, useState } from 'react';
import { Button } from '@/kit/button';
import { useFileDrop } from '@/kit/file-drop';
import { Input, Label } from '@/kit/form-parts';
import { Problem } from '@/kit/page';
import { sendFile } from '@/lib/send-file';

interface Reply {
  ok: boolean;
  message?: string;
  link?: string;
  data?: { id: number };
}

/** What the app says while a file is on its way: how much is sent, then that it is read. */
const progressWords = (share: number) =>
  share < 1 ? `Sending, ${Math.round(100 * share)} % …` : 'Reading the voltages …';

/** Takes in the log of a string: dropped or chosen, one at a time. */
export function StringTakeIn({ lotId, suggested }: { lotId: number; suggested: string }) {
  const router = useRouter();
  const [name, setName] = useState(suggested);
  const [share, setShare] = useState<number | null>(null);
  const [refused, setRefused] = useState<Pick<Reply, 'message' | 'link'> | null>(null);
  const stop = useRef<AbortController | null>(null);
  const take = async (file: File) => {
    const control = new AbortController();
    stop.current = control;
    setRefused(null);
    setShare(0);
    const query = new URLSearchParams({ name: file.name, period: name });
    try {
      const { body } = await sendFile<Reply>(`/api/lots/${lotId}/strings?${query}`, file, {
        signal: control.signal,
        onProgress: setShare,
      });
      if (body.ok) router.push(`/strings/${body.data!.id}`);
      else setRefused(body);
    } catch {
      setRefused({
        message: control.signal.aborted
          ? `${file.name} was cancelled. Nothing of it was stored.`
          : 'The connection dropped. If it did get through, sending it again is refused as the same file; nothing is kept twice.',
      });
    } finally {
      stop.current = null;
      setShare(null);
    }
  };
  const { zone, input, open, over } = useFileDrop({
    label: 'Log of a string',
    testId: 'string-file',
    many: false,
    onFiles: ([file]) => file && share === null && void take(file),
  });
  return (
    <div
      {...zone}
      className={`mb-4 rounded-md border-2 border-dashed p-5 ${over ? 'border-ember bg-ember-wash' : 'border-strong-rule bg-sheet'}`}
    >
      <div className="flex flex-wrap items-end gap-4">
        <FileUp size={26} className="mb-2 text-quiet" aria-hidden />
        <p className="min-w-64 flex-1 self-center">
          Drop the log of a monitor here: time, current of the string, one column of volts for each
          cell.{' '}
          <span className="text-quiet">
            CSV or TSV in any usual dialect, two weeks of seconds and more.
          </span>
        </p>
        <Label text="Name of the period" className="w-64">
          <Input value={name} onChange={(event) => setName(event.target.value)} />
        </Label>
        {input}
        {share === null ? (
          <Button look="primary" onClick={open}>
            Choose a file
          </Button>
        ) : (
          <Button onClick={() => stop.current?.abort()}>Cancel</Button>
        )}
      </div>
      {share !== null && (
        <p role="status" className="mt-2">
          {progressWords(share)}
        </p>
      )}
      {refused && (
        <div className="mt-2">
          <Problem>
            {refused.message ?? 'It was not stored.'}{' '}
            {refused.link && (
              <Link href={refused.link} className="underline">
                See it
              </Link>
            )}
          </Problem>
        </div>
      )}
    </div>
  );
}
