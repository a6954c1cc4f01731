'use client';

import { useMemo, useState } from 'react';
import { Empty, Problem } from '@/kit/page';
import { useAddress } from '@/lib/use-address';
import { CurvesChart } from './curves-chart';
import { parseSubset } from './subset';
import { useCurves } from './use-curves';

/** The lot's curves with what to show kept in the address. */
export function CurvesView({
  lotId,
  claimAh,
  cutoffV,
}: {
  lotId: number;
  claimAh: number | null;
  cutoffV: number;
}) {
  const { data, error } = useCurves(lotId);
  const { query, set } = useAddress();
  const axis = query.get('axis') === 'time' ? 'time' : 'capacity';
  const only = query.get('only') === '1';
  const [text, setText] = useState(query.get('cells') ?? '');
  const numbers = useMemo(() => data?.map((entry) => entry.number) ?? [], [data]);
  const chosen = useMemo(() => parseSubset(text, numbers), [text, numbers]);
  if (error) return <Problem>{error.message}</Problem>;
  if (!data)
    return (
      <p className="text-quiet" role="status">
        Fetching the curves …
      </p>
    );
  if (data.length === 0)
    return (
      <Empty title="No curve yet">
        Bring in the testers’ logs under Logs; each discharge appears here.
      </Empty>
    );
  const shown = only && chosen.size > 0 ? data.filter((entry) => chosen.has(entry.number)) : data;
  return (
    <div className="panel p-4">
      <div className="mb-2 flex flex-wrap items-center gap-4">
        <div role="group" aria-label="Horizontal axis" className="flex">
          {(['capacity', 'time'] as const).map((kind) => (
            <button
              key={kind}
              type="button"
              aria-pressed={axis === kind}
              onClick={() => set({ axis: kind === 'time' ? 'time' : null })}
              className={`min-h-9 border px-3 first:rounded-l-sm last:rounded-r-sm ${axis === kind ? 'border-ember bg-ember-wash' : 'border-rule text-quiet'}`}
            >
              {kind === 'capacity' ? 'Charge' : 'Time'}
            </button>
          ))}
        </div>
        <label className="flex items-center gap-2">
          <span className="text-quiet">Cells</span>
          <input
            className="field w-56"
            placeholder="such as 3, 17, 20-30"
            value={text}
            onChange={(event) => setText(event.target.value)}
            onBlur={() => set({ cells: text })}
          />
        </label>
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            checked={only}
            onChange={(event) => set({ only: event.target.checked ? '1' : null })}
            className="size-4 accent-(--ember)"
          />
          only these
        </label>
        <p className="ml-auto text-quiet" role="status">
          {shown.length} of {data.length} curves
          {chosen.size > 0 ? `, ${chosen.size} picked out` : ''}
        </p>
      </div>
      <CurvesChart curves={shown} axis={axis} claimAh={claimAh} cutoffV={cutoffV} chosen={chosen} />
    </div>
  );
}
