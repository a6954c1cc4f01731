import { type CalendarEntry, calendarFile } from '@dusk-tally/core/bench';
import type { LotRow } from '@dusk-tally/store';
import { z } from 'zod';
import { type ArrivalDue, dueArrivals } from '../arrivals';
import { type BenchDue, dueBench } from '../bench';
import { dueEvidence, type EvidenceDue } from '../evidence';
import { dueFolds, dueHandLogs, type FoldDue, type HandDue } from '../gathering';
import { type DueItem, type DueStage, type Lab, question, type Urgency } from '../shared';
import { dueResting, type RestingDue } from '../resting';
import { dueVerdicts, type VerdictDue } from '../verdicts';

export type DueKind =
  ArrivalDue | BenchDue | EvidenceDue | FoldDue | HandDue | RestingDue | VerdictDue;
export type Due = DueItem<DueKind>;

/** Kinds from the most pressing. */
const ORDER: readonly DueKind[] = [
  'alarm',
  'setAside',
  'noEvidence',
  'recovering',
  'quarantined',
  'waitsForLead',
  'toTriage',
  'recharge',
  'stopped',
  'point',
  'look',
  'blocked',
  'discard',
  'held',
  'sampleFailed',
  'disputeEnds',
  'calibrationOverdue',
  'impossible',
  'short',
  'noClaim',
  'notHere',
  'arrival',
  'shelf',
  'beThere',
  'connect',
  'ready',
  'untested',
  'tooClose',
  'atLeast',
  'resistance',
  'calibrationDue',
];

export const openLots = (lab: Lab): Promise<LotRow[]> =>
  lab.store.lots.find({ cancelledAt: null }, { order: [['id', 'DESC']] });

/** What is due over all stages, the most pressing first; of a kind the earliest first. */
export async function dueItems(lab: Lab, lots: readonly LotRow[]): Promise<Due[]> {
  const items = (
    await Promise.all([
      dueArrivals(lab, lots),
      dueBench(lab),
      dueEvidence(lab),
      dueHandLogs(lab),
      dueFolds(lab),
      dueResting(lab),
      dueVerdicts(lab, lots),
    ])
  ).flat();
  const rank = new Map(ORDER.map((kind, i) => [kind, i]));
  const far = Number.MAX_SAFE_INTEGER;
  return items.sort(
    (a, b) =>
      rank.get(a.kind)! - rank.get(b.kind)! ||
      (a.at?.getTime() ?? far) - (b.at?.getTime() ?? far) ||
      a.key.localeCompare(b.key, 'en', { numeric: true }),
  );
}

/** What presses at a stage: what is dangerous or due now, and all that waits there. */
export interface DueCount {
  pressing: number;
  all: number;
}

/** Items due within this count as due now, ms. */
const SOON_MS = 60 * 60_000;
/** What takes longer than an hour to do counts as due now from so long before its end on, ms. */
const LEAD_MS: Partial<Record<DueKind, number>> = {
  // Three more days, beside the last one, which counts whole.
  disputeEnds: 4 * 86_400_000,
};

/** How much an item presses at a moment: what has a time waits for it, then it is due. */
export function urgencyAt({ urgency, kind, at }: Due, now: Date): Urgency {
  if (at === null || urgency === 'danger') return urgency;
  return at.getTime() - now.getTime() <= (LEAD_MS[kind] ?? SOON_MS) ? 'now' : 'canWait';
}

/** How much is due at each stage, for the places of the app. */
export const dueCounts = question({
  role: 'technician',
  input: z.object({}),
  run: async (lab): Promise<Partial<Record<DueStage, DueCount>>> => {
    const counts: Partial<Record<DueStage, DueCount>> = {};
    for (const item of await dueItems(lab, await openLots(lab))) {
      const { pressing, all } = counts[item.stage] ?? { pressing: 0, all: 0 };
      const presses = ['danger', 'now'].includes(urgencyAt(item, lab.now()));
      counts[item.stage] = { pressing: pressing + (presses ? 1 : 0), all: all + 1 };
    }
    return counts;
  },
});

/** Words of what has a time, for a calendar. */
function titleOf({ kind, note, lot }: Due): string {
  if (kind === 'disputeEnds') return `Dispute window of ${lot!.code} ends`;
  if (kind === 'calibrationDue' || kind === 'calibrationOverdue')
    return `Calibration of ${note} is due`;
  return note ?? '';
}

const MOMENT_MS = 15 * 60_000;

/** Calendar file of everything that has a time: connecting and watching cells, looks, recharges, deadlines. */
export const dueCalendar = question({
  role: 'technician',
  input: z.object({}),
  run: async (lab): Promise<string> => {
    const items = await dueItems(lab, await openLots(lab));
    const entries = items.flatMap((item): CalendarEntry[] =>
      item.at === null
        ? []
        : [
            {
              uid: `${item.key.replace(/[^A-Za-z0-9]+/g, '-')}@dusk-tally`,
              start: item.at,
              end: item.until ?? new Date(item.at.getTime() + MOMENT_MS),
              title: titleOf(item),
              description: item.lot ? `${item.lot.code}, ${item.lot.title}` : '',
            },
          ],
    );
    return calendarFile('Dusk Tally', entries, lab.now());
  },
});
