'use client';

import { Button } from '@/kit/button';

export default function PageError({ reset }: { error: Error; reset: () => void }) {
  return (
    <div className="panel max-w-xl p-6" role="alert">
      <h1 className="font-semibold">This page could not be made</h1>
      <p className="mb-4 mt-1 text-quiet">
        Nothing you stored is lost. The server’s log says why; if the database was away, try again.
      </p>
      <Button onClick={reset}>Try again</Button>
    </div>
  );
}
