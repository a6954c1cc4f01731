import type { Due, DueKind } from '@dusk-tally/lab/today';
import {
  ArrowUpFromLine,
  Ban,
  BatteryCharging,
  BellRing,
  CircleDashed,
  CirclePause,
  Equal,
  Eye,
  Layers,
  Flame,
  Hourglass,
  type LucideIcon,
  MessageCircleQuestion,
  NotebookPen,
  PackageOpen,
  PackageX,
  Plug,
  Ruler,
  ShieldAlert,
  Siren,
  Timer,
  Trash2,
  TriangleAlert,
  X,
  Zap,
} from 'lucide-react';
import type { ReactNode } from 'react';
import { LabDay, LabMoment } from '@/kit/lab-time';
import { DueAt } from './due-at';

/** How each kind of due item is told, and what there is to do. */
export const DUE_WORDS: Record<
  DueKind,
  { icon: LucideIcon; words: (item: Due) => ReactNode; doing: string }
> = {
  alarm: { icon: BellRing, words: ({ note }) => note, doing: 'What to do' },
  noEvidence: { icon: BellRing, words: ({ note }) => note, doing: 'See why' },
  setAside: { icon: BellRing, words: ({ note }) => note, doing: 'Look at them' },
  look: {
    icon: Eye,
    words: ({ note, at }) => (
      <>
        {note}, <DueAt at={at!} />
      </>
    ),
    doing: 'Go there',
  },
  point: {
    icon: NotebookPen,
    words: ({ note, at }) => (
      <>
        {note}, <DueAt at={at!} />
      </>
    ),
    doing: 'To the round',
  },
  stopped: {
    icon: NotebookPen,
    words: ({ note }) => note,
    doing: 'End its log',
  },
  beThere: {
    icon: Timer,
    words: ({ note, at }) => (
      <>
        {note}, <DueAt at={at!} />
      </>
    ),
    doing: 'See its points',
  },
  toTriage: {
    icon: TriangleAlert,
    words: ({ count, note }) =>
      `${note} ${count === 1 ? 'stands' : 'stand'} below the cut-off: to triage, uncharged`,
    doing: 'Read anew for triage',
  },
  shelf: {
    icon: Layers,
    words: ({ note, at }) => (
      <>
        {note}, <DueAt at={at!} />
      </>
    ),
    doing: 'To the shelf',
  },
  recharge: {
    icon: BatteryCharging,
    words: ({ note, at }) => (
      <>
        {note}, <DueAt at={at!} />
      </>
    ),
    doing: 'Recharge',
  },
  connect: {
    icon: Plug,
    words: ({ note, at }) => (
      <>
        {note}, <DueAt at={at!} />
      </>
    ),
    doing: 'See the plan',
  },
  calibrationOverdue: {
    icon: Ruler,
    words: ({ note, at }) => (
      <>
        calibration of {note} ended on <LabDay at={new Date(at!.getTime() - 1)} />
      </>
    ),
    doing: 'See the instruments',
  },
  calibrationDue: {
    icon: Ruler,
    words: ({ note, at }) => (
      <>
        calibration of {note} ends on <LabDay at={new Date(at!.getTime() - 1)} />
      </>
    ),
    doing: 'See the instruments',
  },
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
    words: ({ note }) => (
      <span title={note ?? undefined}>open on arrival: {note?.replace(/ \([^()]*\)/g, '')}</span>
    ),
    doing: 'Go on',
  },
  sampleFailed: {
    icon: X,
    words: ({ count }) => `the sample failed with ${count} short; a lead decides`,
    doing: 'Decide',
  },
  ready: {
    icon: Zap,
    words: ({ count, of }) => `${count} of ${of} ready for the bench`,
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
    words: ({ count, of }) => `${count} of ${of} miss the claimed capacity`,
    doing: 'See the verdict',
  },
  untested: {
    icon: CircleDashed,
    words: ({ count, of }) => `${count} of ${of} untested and not ready`,
    doing: 'See which',
  },
  tooClose: {
    icon: Equal,
    words: ({ count }) => `${count} too close to call`,
    doing: 'See which',
  },
  atLeast: {
    icon: ArrowUpFromLine,
    words: ({ count }) => `${count} at least; open`,
    doing: 'See which',
  },
  resistance: {
    icon: Ruler,
    words: ({ count, of }) => `${count} of ${of} without an AC resistance`,
    doing: 'Type readings',
  },
};
