import type { Enough } from '@dusk-tally/core/bench';

/** What a discharge under way says already: its claim met, or by forecast out of reach. */
export function EnoughLine({ enough }: { enough: Enough }) {
  if (enough.kind === 'open') return null;
  return (
    <p
      role="status"
      className={`rounded-sm border-l-4 bg-wash px-3 py-2 ${enough.kind === 'metAlready' ? 'border-met' : 'border-doubt'}`}
    >
      {enough.text}
    </p>
  );
}
