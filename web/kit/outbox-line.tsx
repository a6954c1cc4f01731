import { CloudOff, CloudUpload, HardDriveDownload } from 'lucide-react';
import type { OutboxState } from '@/lib/use-send-queue';

/** Whether what was typed is safe on the server, on its way, or waiting in this browser. */
export function OutboxLine({
  state,
  one = 'reading',
  many = 'readings',
}: {
  state: OutboxState;
  one?: string;
  many?: string;
}) {
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
