'use client';

import { Link } from '@/kit/link';
import { Button } from '@/kit/button';
import { useAct } from '@/kit/use-act';
import { keepControlCellAct } from './channel-acts';

/** Keeps a stable cell to compare channels with, or gives it back. */
export function ControlCell({
  number,
  since,
  mayLead,
}: {
  number: string;
  since: string | null;
  mayLead: boolean;
}) {
  const { run, busy, problem } = useAct();
  return (
    <div className="-ml-1 mt-1 flex flex-wrap items-center gap-2 text-[0.87rem]">
      {since && (
        <Link href="/lab/channels" className="rounded-sm border border-strong-rule px-2 py-0.5">
          control cell since {since}
        </Link>
      )}
      {mayLead && (
        <Button
          look="bare"
          className={since ? '' : 'px-1.5 text-quiet underline'}
          disabled={busy}
          onClick={() => run((key) => keepControlCellAct({ number, keep: since === null }, key))}
        >
          {since ? 'No longer a control cell' : 'Keep as control cell'}
        </Button>
      )}
      {problem && <span role="alert">{problem}</span>}
    </div>
  );
}
