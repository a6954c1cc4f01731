import { LIFE_STATES } from '@dusk-tally/core/stock';
import type { LifeLine } from '@dusk-tally/lab/verdicts';
import { LabMoment } from '@/kit/lab-time';

/** A cell’s life, one state at a time: since when, and by whom. */
export function CellLife({ life }: { life: readonly LifeLine[] }) {
  return (
    <section className="panel p-4" aria-labelledby="cell-life">
      <h2 id="cell-life" className="font-semibold">
        Its life so far
      </h2>
      <ol className="mt-1 space-y-1">
        {life.map(({ state, since, by }, i) => (
          <li key={since.getTime()} className={i === life.length - 1 ? 'font-medium' : ''}>
            {LIFE_STATES[state]}{' '}
            <span className="font-normal text-quiet">
              since <LabMoment at={since} />
              {by && `, ${by}`}
            </span>
          </li>
        ))}
      </ol>
    </section>
  );
}
