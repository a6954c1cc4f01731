'use client';

import { type ReactNode, useId, useState } from 'react';
import { Button } from './button';
import { Problem } from './page';
import type { Outcome } from '@/lib/outcome';
import { useAct } from './use-act';
import { Input } from './form-parts';

/** An act that needs a reason: asked for in place, after its button was pressed. */
export function ReasonForm({
  open,
  title,
  note,
  label = 'Reason',
  children,
  does,
  act,
}: {
  /** What opens it. */
  open: string;
  title: string;
  note?: string;
  label?: string;
  /** Further fields above the reason. */
  children?: ReactNode;
  /** What the deciding button says. */
  does: string;
  act: (reason: string, form: FormData, key: string) => Promise<Outcome<unknown>>;
}) {
  const { run, busy, problem, setProblem } = useAct();
  const [isOpen, setOpen] = useState(false);
  const id = useId();
  const close = () => {
    setOpen(false);
    setProblem(null);
  };
  if (!isOpen)
    return (
      <Button look="bare" className="px-1.5 underline" onClick={() => setOpen(true)}>
        {open}
      </Button>
    );
  return (
    <form
      aria-label={title}
      className="my-1 max-w-[44rem] space-y-2 rounded-sm border border-rule bg-wash p-3"
      onKeyDown={(event) => event.key === 'Escape' && close()}
      onSubmit={(event) => {
        event.preventDefault();
        const form = new FormData(event.currentTarget);
        run((key) => act(String(form.get('reason') ?? ''), form, key), close);
      }}
    >
      <p className="font-medium">{title}</p>
      {note && <p className="text-[0.87rem] text-quiet">{note}</p>}
      {children}
      <label className="block">
        <span className="mb-1 block text-quiet" id={`${id}-label`}>
          {label}
        </span>
        <Input
          name="reason"
          className="w-full"
          aria-labelledby={`${id}-label`}
          maxLength={400}
          autoFocus={!children}
          autoComplete="off"
        />
      </label>
      {problem && <Problem>{problem}</Problem>}
      <div className="flex gap-2">
        <Button type="submit" disabled={busy}>
          {busy ? 'One moment …' : does}
        </Button>
        <Button look="bare" type="button" onClick={close}>
          Leave it
        </Button>
      </div>
    </form>
  );
}
