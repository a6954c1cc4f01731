import { CLAIM_ITEMS } from '@dusk-tally/core/arrivals';
import { STATE_WORDS } from '@dusk-tally/core/verdicts';
import type { LotMove } from '@dusk-tally/lab/verdicts';
import { Link } from '@/kit/link';
import { Fold } from '@/kit/fold';
import { causeWords } from './cause-words';

const lower = (text: string) => text.charAt(0).toLowerCase() + text.slice(1);

/** `capacity of 12 cells, by at most 0.34 %`. */
function itemWords({ item, cells, most }: LotMove['items'][number]): string {
  const by = most === null || most < 5e-6 ? '' : `, by at most ${(100 * most).toPrecision(2)} %`;
  return `${lower(CLAIM_ITEMS[item].words)} of ${cells} ${cells === 1 ? 'cell' : 'cells'}${by}`;
}

/** What moved in a lot without an act on it, and why: nothing changes in silence. */
export function LotMoves({ moves }: { moves: readonly LotMove[] }) {
  if (moves.length === 0) return null;
  return (
    <section className="panel p-4" aria-label="What moved from elsewhere">
      <Fold
        title={`What moved in this lot because of other evidence, last on ${moves[0]!.day}`}
        openAtFirst={moves.some(({ crossed }) => crossed.length > 0)}
      >
        <ul className="mt-1 space-y-2">
          {moves.map((move) => (
            <li key={`${move.day} ${move.causes.join()}`}>
              <span className="font-medium">{move.day}:</span> {causeWords(move)} Moved:{' '}
              {move.items.map(itemWords).join('; ')}.
              {move.crossed.length > 0 && (
                <ul className="ml-4 list-disc">
                  {move.crossed.slice(0, 20).map(({ cell, item, from, to }) => (
                    <li key={`${cell} ${item}`}>
                      <Link href={`/cells/${cell}`} className="underline">
                        {cell}
                      </Link>
                      , {lower(CLAIM_ITEMS[item].words)}: {STATE_WORDS[from]} → {STATE_WORDS[to]}
                    </li>
                  ))}
                  {move.crossed.length > 20 && <li>and {move.crossed.length - 20} more</li>}
                </ul>
              )}
            </li>
          ))}
        </ul>
      </Fold>
    </section>
  );
}
