'use client';

import { useState } from 'react';
import { Button } from '@/kit/button';
import { AddChannelForm } from './channel-form';

/** Opens the form for one more channel of a tester. */
export function AddChannel({ testers }: { testers: { id: number; name: string }[] }) {
  const [tester, setTester] = useState<number | null>(null);
  if (testers.length === 0) return null;
  return (
    <section className="panel p-4">
      <div className="flex flex-wrap items-center gap-2">
        <h3 className="mr-2 font-semibold">One more channel on</h3>
        {testers.map(({ id, name }) => (
          <Button key={id} aria-pressed={tester === id} onClick={() => setTester(id)}>
            {name}
          </Button>
        ))}
      </div>
      {tester !== null && (
        <AddChannelForm key={tester} instrumentId={tester} done={() => setTester(null)} />
      )}
    </section>
  );
}
