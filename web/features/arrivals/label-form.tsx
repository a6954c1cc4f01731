'use client';

import { useRouter } from 'next/navigation';
import { useState, useTransition } from 'react';
import { labelCellAct } from './acts';
import { Button } from '@/kit/button';
import { Input } from '@/kit/form-parts';

/** The mark a cell carries, to be read or changed. */
export function LabelForm({
  cellId,
  version,
  label,
}: {
  cellId: number;
  version: number;
  label: string;
}) {
  const router = useRouter();
  const [text, setText] = useState(label);
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, startTransition] = useTransition();
  const save = () =>
    startTransition(async () => {
      const outcome = await labelCellAct(cellId, version, text);
      setProblem(outcome.ok ? null : outcome.message);
      if (outcome.ok) router.refresh();
    });
  return (
    <form
      className="flex flex-wrap items-center gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        save();
      }}
    >
      <label className="flex items-center gap-2">
        <span className="text-quiet">Mark on the cell</span>
        <Input
          className="w-64"
          value={text}
          maxLength={60}
          onChange={(event) => setText(event.target.value)}
        />
      </label>
      {text !== label && (
        <Button type="submit" disabled={busy}>
          Keep
        </Button>
      )}
      {problem && (
        <span role="alert" className="text-missed">
          {problem}
        </span>
      )}
    </form>
  );
}
