'use client';

import type { ChannelState } from '@dusk-tally/lab/evidence';
import { useState } from 'react';
import { Button } from '@/kit/button';
import { Input, Label } from '@/kit/form-parts';
import { Problem } from '@/kit/page';
import { useAct } from '@/kit/use-act';
import { lookAtChannelAct } from './channel-acts';

/** Why results of a channel are held back, and what releases them. */
export function ChannelHeld({ channel, mayLead }: { channel: ChannelState; mayLead: boolean }) {
  const { run, busy, problem } = useAct();
  const [note, setNote] = useState('');
  return (
    <div role="status" className="rounded-sm border border-doubt bg-wash p-3">
      <p className="font-medium text-doubt">Results since its last good point are held back.</p>
      <p>{channel.held!.reason}</p>
      {mayLead ? (
        <form
          className="mt-2 flex flex-wrap items-end gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            run(
              (key) => lookAtChannelAct({ channelId: channel.id, note }, key),
              () => setNote(''),
            );
          }}
        >
          <Label text="What you found, looking at it" className="min-w-52 flex-1">
            <Input value={note} onChange={(event) => setNote(event.target.value)} />
          </Label>
          <Button type="submit" disabled={busy || note.trim().length < 3}>
            Release its results
          </Button>
        </form>
      ) : (
        <p className="text-quiet">A lead can release them after looking.</p>
      )}
      {problem && <Problem>{problem}</Problem>}
    </div>
  );
}
