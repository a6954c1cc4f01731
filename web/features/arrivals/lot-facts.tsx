'use client';

import { useState } from 'react';

/** The facts of a lot in one line; a press shows what the line has no room for. */
export function LotFacts({ facts }: { facts: string }) {
  const [whole, setWhole] = useState(false);
  return (
    <button
      type="button"
      title={facts}
      aria-expanded={whole}
      onClick={() => setWhole(!whole)}
      className={`min-w-0 flex-1 basis-96 rounded-sm text-left text-quiet ${whole ? '' : 'truncate'}`}
    >
      {facts}
    </button>
  );
}
