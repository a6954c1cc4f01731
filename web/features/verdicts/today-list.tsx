import type { LotHead } from '@dusk-tally/lab/verdicts';
import type { Due, DueKind } from '@dusk-tally/lab/today';
import {
  Ban,
  Flame,
  Hourglass,
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
import type { ReactNode } from 'react';
import { LabDay, LabMoment } from '@/kit/lab-time';
import { TallyThumb } from '@/kit/tally-strip';

/** Kinds that are of a lot. */
type LotKind = Exclude<
  DueKind,
  'alarm' | 'setAside' | 'look' | 'recharge' | 'connect' | 'calibrationDue' | 'calibrationOverdue'
>;

const KINDS: Record<
  LotKind,
  {
    icon: LucideIcon;
    words: (item: Due) => ReactNode;
    doing: string;
  }
> = {
  quarantined: {
    icon: Siren,
    words: ({ count }) => `${count} ${count === 1 ? 'cell is' : 'cells are'} in quarantine`,
    doing: 'See the findings',
  },
  waitsForLead: {
    icon: ShieldAlert,
    words: ({ count }) =>
      `${count} ${count === 1 ? 'cell waits' : 'cells wait'} for a lead to release ${count === 1 ? 'it' : 'them'}`,
    doing: 'Decide',
  },
  recovering: {
    icon: Flame,
    words: ({ count }) =>
      `${count} ${count === 1 ? 'cell is' : 'cells are'} in slow recovery: stay with ${count === 1 ? 'it' : 'them'}`,
    doing: 'Note how it goes',
  },
  blocked: {
    icon: TriangleAlert,
    words: ({ count }) => `${count} ${count === 1 ? 'cell is' : 'cells are'} to be made good`,
    doing: 'See what was found',
  },
  discard: {
    icon: Trash2,
    words: ({ count }) => `${count} ${count === 1 ? 'cell is' : 'cells are'} to be discarded`,
    doing: 'See why',
  },
  notHere: {
    icon: PackageX,
    words: () => 'is not here yet, or not counted',
    doing: 'Count it in',
  },
  arrival: {
    icon: PackageOpen,
    words: ({ note }) => `still open on arrival: ${note}`,
    doing: 'Go on',
  },
  sampleFailed: {
    icon: X,
    words: ({ count }) => `the sample failed with ${count} short; a lead decides`,
    doing: 'Decide',
  },
  ready: {
    icon: Zap,
    words: ({ count, of }) => `${count} of ${of} cells are ready for the bench`,
    doing: 'Plan the bench',
  },
  disputeEnds: {
    icon: Hourglass,
    words: ({ at }) => (
      <>
        the dispute window ends: claim by <LabMoment at={at!} />
      </>
    ),
    doing: 'See the verdict',
  },
  impossible: {
    icon: Ban,
    words: () => 'claims more than this size of cell can hold',
    doing: 'Look at the claim',
  },
  noClaim: {
    icon: MessageCircleQuestion,
    words: () => 'has no claim to judge by',
    doing: 'Enter the claim',
  },
  held: {
    icon: CirclePause,
    words: ({ count }) =>
      `${count} ${count === 1 ? 'cell has' : 'cells have'} held results only: the evidence waits for a look`,
    doing: 'See which, and why',
  },
  short: {
    icon: X,
    words: ({ count, of }) => `${count} of ${of} cells miss the claimed capacity`,
    doing: 'See the verdict',
  },
  untested: {
    icon: CircleDashed,
    words: ({ count, of }) => `${count} of ${of} cells are untested and not ready for the bench`,
    doing: 'See which',
  },
  tooClose: {
    icon: Equal,
    words: ({ count }) => `${count} ${count === 1 ? 'cell is' : 'cells are'} too close to call`,
    doing: 'See which',
  },
  resistance: {
    icon: Ruler,
    words: ({ count, of }) => `${count} of ${of} cells wait for an AC resistance reading`,
    doing: 'Type readings',
  },
};

/** Instruments whose calibration ends. */
export function CalibrationToday({ items }: { items: readonly Due[] }) {
  if (items.length === 0) return null;
  return (
    <section className="panel mb-4 p-4" aria-labelledby="today-lab">
      <h2 id="today-lab" className="font-semibold">
        Lab
      </h2>
      <ul className="mt-2 divide-y divide-rule">
        {items.map(({ key, kind, note, at, path }) => (
          <li key={key}>
            <Link
              href={path}
              className="flex min-h-10 items-center gap-3 rounded-sm px-1 py-1.5 hover:bg-wash"
            >
              <Ruler size={16} className="shrink-0 text-quiet" aria-hidden />
              <span className={kind === 'calibrationOverdue' ? 'font-semibold' : ''}>
                Calibration of {note} {kind === 'calibrationOverdue' ? 'ended on' : 'ends on'}{' '}
                <LabDay at={new Date(at!.getTime() - 1)} />
              </span>
              <span className="ml-auto whitespace-nowrap text-ember">See the instruments</span>
            </Link>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** What waits, lot by lot. */
export function TodayList({ items, heads }: { items: Due[]; heads: LotHead[] }) {
  return (
    <div className="space-y-4">
      {heads.map(({ lot, strokes, supplier }) => {
        const own = items.filter((item) => item.lot?.code === lot.code);
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
                  const { icon: Icon, words, doing } = KINDS[item.kind as LotKind];
                  return (
                    <li key={item.key}>
                      <Link
                        href={item.path}
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
