import type { Gate } from '@dusk-tally/core/arrivals';
import { momentIn } from '@dusk-tally/core/units';
import type { LotRow } from '@dusk-tally/store';
import { labTimeZone, loadClaims, type LotClaim } from '../lots';
import { DUE, type DueItem, type Lab, type Urgency } from '../shared';
import { arrivalsOf, type ArrivalView } from './arrival-view';
import { sampleStandings } from './sample-view';

export type ArrivalDue =
  | 'quarantined'
  | 'waitsForLead'
  | 'recovering'
  | 'blocked'
  | 'discard'
  | 'noClaim'
  | 'impossible'
  | 'notHere'
  | 'arrival'
  | 'sampleFailed'
  | 'disputeEnds';

const GATES: readonly [Gate & ArrivalDue, Urgency, string][] = [
  ['recovering', 'danger', 'arrival/triage'],
  ['quarantined', 'danger', 'arrival/inspection'],
  ['waitsForLead', 'now', 'arrival/triage'],
  ['blocked', 'blocked', 'arrival/inspection'],
  ['discard', 'blocked', 'arrival/triage'],
];

const STEP_WORDS = {
  box: 'box',
  packs: 'packs',
  codes: 'codes',
  inspection: 'inspection',
  readings: 'first readings',
  triage: 'triage',
  sampling: 'sampling',
} as const;

const DAY_MIN = 1440;

/** What is asked of all lots at once. */
interface Asked {
  timeZone: string;
  arrivals: ReadonlyMap<number, ArrivalView>;
  samples: Awaited<ReturnType<typeof sampleStandings>>;
  claims: ReadonlyMap<number, LotClaim>;
  /** Lots whose dispute was sent, or settled. */
  disputed: ReadonlySet<number>;
}

/** What a lot’s arrival and claim wait for. */
function dueOfLot(now: Date, lot: LotRow, asked: Asked): DueItem<ArrivalDue>[] {
  const { timeZone } = asked;
  const arrival = asked.arrivals.get(lot.id)!;
  const sample = asked.samples.get(lot.id);
  const { claim } = asked.claims.get(lot.id)!;
  const of = arrival.cells;
  const item = (
    kind: ArrivalDue,
    urgency: Urgency,
    tab: string,
    more: Partial<DueItem<ArrivalDue>> & { count: number },
  ): DueItem<ArrivalDue>[] =>
    more.count > 0
      ? [
          {
            ...DUE,
            key: `${kind} ${lot.code}`,
            stage: 'arrivals',
            kind,
            urgency,
            lot: { code: lot.code, title: lot.title },
            of,
            path: `/lots/${lot.code}/${tab}`,
            ...more,
          },
        ]
      : [];
  const open = arrival.steps.filter(({ state }) => state === 'open' || state === 'begun');
  const days = claim.items.find(({ kind }) => kind === 'disputeWindow')?.value ?? null;
  const endsAt =
    days !== null && lot.arrivedOn
      ? new Date(momentIn(timeZone, lot.arrivedOn, (days + 1) * DAY_MIN))
      : null;
  const leftMs = endsAt ? endsAt.getTime() - now.getTime() : -1;
  return [
    ...GATES.flatMap(([gate, urgency, tab]) =>
      item(gate, urgency, tab, {
        count: arrival.gates.find((row) => row.gate === gate)?.count ?? 0,
      }),
    ),
    ...item('sampleFailed', 'now', 'arrival/sampling', {
      count: sample?.outcome === 'failed' && !sample.decision ? sample.short : 0,
    }),
    ...item('disputeEnds', 'now', 'money/dispute', {
      // Spoken of from half of the window on; within three days it presses.
      count:
        !asked.disputed.has(lot.id) &&
        leftMs > 0 &&
        leftMs <= (((days ?? 0) + 1) / 2) * DAY_MIN * 60_000
          ? 1
          : 0,
      at: endsAt,
    }),
    ...item('impossible', 'blocked', 'claim', {
      count: claim.plausibility?.possible === false ? Math.max(1, of) : 0,
    }),
    ...item('noClaim', 'blocked', 'claim', { count: claim.capacityAh ? 0 : Math.max(1, of) }),
    ...item('notHere', 'blocked', 'arrival/box', { count: of === 0 ? 1 : 0 }),
    ...item('arrival', 'canWait', 'arrival', {
      count: open.length,
      note: open.map(({ step, words }) => `${STEP_WORDS[step]} (${words})`).join(', '),
    }),
  ];
}

/** What the arrivals of lots wait for. */
export async function dueArrivals(
  lab: Lab,
  lots: readonly LotRow[],
): Promise<DueItem<ArrivalDue>[]> {
  const lotId = lots.map(({ id }) => id);
  const [timeZone, arrivals, samples, claims, disputes] = await Promise.all([
    labTimeZone(lab),
    arrivalsOf(lab, lots),
    sampleStandings(lab, lotId),
    loadClaims(lab, lots),
    lab.store.disputing.disputes.find({ lotId }, { columns: ['lotId', 'stage'] }),
  ]);
  // What was sent, or settled, needs no reminder.
  const disputed = new Set(
    disputes.filter(({ stage }) => stage !== 'draft').map((dispute) => dispute.lotId),
  );
  const asked = { timeZone, arrivals, samples, claims, disputed };
  return lots.flatMap((lot) => dueOfLot(lab.now(), lot, asked));
}
