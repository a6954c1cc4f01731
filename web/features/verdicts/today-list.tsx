import type { LotHead } from '@dusk-tally/lab/verdicts';
import type { TodayItem } from '@dusk-tally/lab/today';
import {
  Ban,
  Flame,
  PackageOpen,
  PackageX,
  ShieldAlert,
  Siren,
  Trash2,
  TriangleAlert,
  Zap,
  CircleDashed,
  CirclePause,
  Equal,
  type LucideIcon,
  MessageCircleQuestion,
  Ruler,
  X,
} from 'lucide-react';
import Link from 'next/link';
import { TallyThumb } from '@/kit/tally-strip';

const KINDS: Record<
  TodayItem['kind'],
  {
    icon: LucideIcon;
    words: (item: TodayItem) => string;
    /** Tab of the lot it leads to; a place of its own with a slash in front. */
    tab: string | null;
    doing: string;
  }
> = {
  quarantined: {
    icon: Siren,
    words: ({ count }) => `${count} ${count === 1 ? 'cell is' : 'cells are'} in quarantine`,
    tab: 'arrival/inspection',
    doing: 'See the findings',
  },
  waitsForLead: {
    icon: ShieldAlert,
    words: ({ count }) =>
      `${count} ${count === 1 ? 'cell waits' : 'cells wait'} for a lead to release ${count === 1 ? 'it' : 'them'}`,
    tab: 'arrival/triage',
    doing: 'Decide',
  },
  recovering: {
    icon: Flame,
    words: ({ count }) =>
      `${count} ${count === 1 ? 'cell is' : 'cells are'} in slow recovery: stay with ${count === 1 ? 'it' : 'them'}`,
    tab: 'arrival/triage',
    doing: 'Note how it goes',
  },
  blocked: {
    icon: TriangleAlert,
    words: ({ count }) => `${count} ${count === 1 ? 'cell is' : 'cells are'} to be made good`,
    tab: 'arrival/inspection',
    doing: 'See what was found',
  },
  discard: {
    icon: Trash2,
    words: ({ count }) => `${count} ${count === 1 ? 'cell is' : 'cells are'} to be discarded`,
    tab: 'arrival/triage',
    doing: 'See why',
  },
  notHere: {
    icon: PackageX,
    words: () => 'is not here yet, or not counted',
    tab: 'arrival/box',
    doing: 'Count it in',
  },
  arrival: {
    icon: PackageOpen,
    words: ({ note }) => `still open on arrival: ${note}`,
    tab: 'arrival',
    doing: 'Go on',
  },
  sampleFailed: {
    icon: X,
    words: ({ count }) => `the sample failed with ${count} short; a lead decides`,
    tab: 'arrival/sampling',
    doing: 'Decide',
  },
  ready: {
    icon: Zap,
    words: ({ count, of }) => `${count} of ${of} cells are ready for the bench`,
    tab: '/bench/plan',
    doing: 'Plan the bench',
  },
  impossible: {
    icon: Ban,
    words: () => 'claims more than this size of cell can hold',
    tab: 'claim',
    doing: 'Look at the claim',
  },
  noClaim: {
    icon: MessageCircleQuestion,
    words: () => 'has no claim to judge by',
    tab: 'claim',
    doing: 'Enter the claim',
  },
  held: {
    icon: CirclePause,
    words: ({ count }) =>
      `${count} ${count === 1 ? 'cell has' : 'cells have'} held results only: the evidence waits for a look`,
    tab: 'cells?show=held',
    doing: 'See which, and why',
  },
  short: {
    icon: X,
    words: ({ count, of }) => `${count} of ${of} cells miss the claimed capacity`,
    tab: 'verdict',
    doing: 'See the verdict',
  },
  untested: {
    icon: CircleDashed,
    words: ({ count, of }) => `${count} of ${of} cells are untested and not ready for the bench`,
    tab: 'cells',
    doing: 'See which',
  },
  tooClose: {
    icon: Equal,
    words: ({ count }) => `${count} ${count === 1 ? 'cell is' : 'cells are'} too close to call`,
    tab: 'cells',
    doing: 'See which',
  },
  resistance: {
    icon: Ruler,
    words: ({ count, of }) => `${count} of ${of} cells wait for an AC resistance reading`,
    tab: 'readings',
    doing: 'Type readings',
  },
};

const placeOf = (lot: string, tab: string | null): string =>
  tab === null ? '/lab/channels' : tab.startsWith('/') ? tab : `/lots/${lot}/${tab}`;

/** What waits, lot by lot. */
export function TodayList({ items, heads }: { items: TodayItem[]; heads: LotHead[] }) {
  return (
    <div className="space-y-4">
      {heads.map(({ lot, strokes, supplier }) => {
        const own = items.filter((item) => item.lot === lot.code);
        return (
          <section key={lot.id} className="panel p-4" aria-labelledby={`lot-${lot.id}`}>
            <div className="flex flex-wrap items-center justify-between gap-3">
              <h2 id={`lot-${lot.id}`} className="font-semibold">
                <Link href={`/lots/${lot.code}`} className="hover:underline">
                  {lot.title}
                </Link>
                <span className="ml-2 font-normal text-quiet">
                  {lot.code}, {supplier.name}
                </span>
              </h2>
              <TallyThumb strokes={strokes} width={380} height={28} />
            </div>
            {own.length === 0 ? (
              <p className="mt-2 text-quiet">Nothing waits.</p>
            ) : (
              <ul className="mt-2 divide-y divide-rule">
                {own.map((item) => {
                  const { icon: Icon, words, tab, doing } = KINDS[item.kind];
                  return (
                    <li key={item.kind}>
                      <Link
                        href={placeOf(lot.code, tab)}
                        className="flex min-h-10 items-center gap-3 rounded-sm px-1 py-1.5 hover:bg-wash"
                      >
                        <Icon size={16} className="shrink-0 text-quiet" aria-hidden />
                        <span>{words(item)}</span>
                        <span className="ml-auto whitespace-nowrap text-ember">{doing}</span>
                      </Link>
                    </li>
                  );
                })}
              </ul>
            )}
          </section>
        );
      })}
    </div>
  );
}
