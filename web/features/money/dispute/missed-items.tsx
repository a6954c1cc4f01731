import type { DisputeFilePage } from '@dusk-tally/lab/disputes';
import { Link } from '@/kit/link';
import { Panel } from '../money-parts';

/** Items beside capacity that cells miss, with what was found of each. */
export function Missed({ items }: { items: NonNullable<DisputeFilePage['snapshot']['missed']> }) {
  if (items.length === 0) return null;
  return (
    <Panel title="Other items that cells miss">
      <ul className="space-y-1">
        {items.map(({ words, claimed, found }) => (
          <li key={words}>
            <span className="font-medium">
              {words}, {claimed}:
            </span>
            <ul>
              {found.map(({ text, cells }) => (
                <li key={text}>
                  {text}:{' '}
                  {cells.map((number, i) => (
                    <span key={number}>
                      {i > 0 && ', '}
                      <Link href={`/cells/${number}`} className="hover:underline">
                        {number}
                      </Link>
                    </span>
                  ))}
                </li>
              ))}
            </ul>
          </li>
        ))}
      </ul>
    </Panel>
  );
}
