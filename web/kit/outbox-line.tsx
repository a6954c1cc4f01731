import { CircleHelp, CloudOff, CloudUpload, HardDriveDownload } from 'lucide-react';
import { Button } from './button';
import type { OutboxState } from '@/lib/use-send-queue';

/** Whether what was typed is safe on the server, on its way, or waiting in this browser. */
export function OutboxLine({
  state,
  one = 'reading',
  many = 'readings',
  open = 0,
  toOpen,
}: {
  state: OutboxState;
  one?: string;
  many?: string;
  /** Typed, and asked about or not understood: not stored yet. */
  open?: number;
  /** Leads to the first of them. */
  toOpen?: () => void;
}) {
  if (open > 0 && state.kind !== 'waiting')
    return (
      <p role="status" className="flex items-center gap-1.5 text-doubt">
        <CircleHelp size={16} aria-hidden />
        {open === 1 ? `1 ${one} is` : `${open} ${many} are`} asked about and not stored yet.
        {toOpen && (
          <Button look="bare" onClick={toOpen}>
            Go there
          </Button>
        )}
      </p>
    );
  if (state.kind === 'kept')
    return (
      <p role="status" className="flex items-center gap-1.5 text-quiet">
        <HardDriveDownload size={16} aria-hidden /> All {many} are stored.
      </p>
    );
  if (state.kind === 'sending')
    return (
      <p role="status" className="flex items-center gap-1.5 text-quiet">
        <CloudUpload size={16} aria-hidden /> Storing {state.count} …
      </p>
    );
  return (
    <p role="alert" className="flex items-center gap-1.5 text-doubt">
      <CloudOff size={16} aria-hidden /> {state.message} {state.count}{' '}
      {state.count === 1 ? `${one} is` : `${many} are`} waiting in this browser and will be sent
      again by themselves.
    </p>
  );
}
