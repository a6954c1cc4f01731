import { CloudOff, CloudUpload, HardDriveDownload } from 'lucide-react';
import type { OutboxState } from './entry-outbox';

/** Whether what was typed is safe on the server, on its way, or held in this browser. */
export function OutboxLine({ state }: { state: OutboxState }) {
  if (state.kind === 'kept')
    return (
      <p role="status" className="flex items-center gap-1.5 text-quiet">
        <HardDriveDownload size={16} aria-hidden /> All readings are stored.
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
      {state.count === 1 ? 'reading is' : 'readings are'} held in this browser and will be sent
      again by themselves.
    </p>
  );
}
