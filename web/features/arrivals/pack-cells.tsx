'use client';

import type { PacksView } from '@dusk-tally/lab/arrivals';
import { Link } from '@/kit/link';
import { Choice, Option } from '@/kit/choice';
import { Problem } from '@/kit/page';
import { useAct } from '@/kit/use-act';
import { setHarvestAct } from './arrival-acts';

const HARVEST = { good: 'good', questionable: 'questionable', dead: 'dead' } as const;

/** Cells of a pack by parallel group, with how each came out. */
export function PackCells({ pack }: { pack: PacksView['packs'][number] }) {
  const { run, busy, problem } = useAct();
  const groups = [...new Set(pack.cells.map((cell) => cell.groupIndex))];
  return (
    <div className="mt-2 flex flex-wrap gap-2">
      {groups.map((group) => (
        <fieldset key={group} className="rounded-sm border border-rule px-2 pb-2">
          <legend className="px-1 text-[0.82rem] text-quiet">group {group}</legend>
          {pack.cells
            .filter((cell) => cell.groupIndex === group)
            .map((cell) => (
              <div key={cell.id} className="flex items-center gap-2">
                <Link href={`/cells/${cell.number}`} className="hover:underline">
                  {cell.number}
                </Link>
                <span className="text-[0.82rem] text-quiet tabular-nums">
                  {cell.firstV === null ? '' : `${cell.firstV.toFixed(3)} V`}
                </span>
                <Choice
                  label={`${cell.number} came out`}
                  className="rounded-sm border border-rule bg-raised px-1 py-0.5"
                  disabled={busy}
                  value={cell.harvest ?? 'good'}
                  onValue={(next) =>
                    run((key) =>
                      setHarvestAct(
                        {
                          cellId: cell.id,
                          version: cell.version,
                          harvest: next as keyof typeof HARVEST,
                        },
                        key,
                      ),
                    )
                  }
                >
                  {Object.entries(HARVEST).map(([value, words]) => (
                    <Option key={value} value={value}>
                      {words}
                    </Option>
                  ))}
                </Choice>
              </div>
            ))}
        </fieldset>
      ))}
      {problem && <Problem>{problem}</Problem>}
    </div>
  );
}
