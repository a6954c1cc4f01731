import {
  type OperatingPoint,
  sequentialRequest,
  type SequentialState,
  sequentialState,
  stoppingLimits,
  type StoppingLimits,
} from '@dusk-tally/core/arrivals';
import type { ReceivingEntryRow, SamplingPlanRow } from '@dusk-tally/store';
import { z } from 'zod';
import { byLot, type Lab, question } from '../shared';
import { doubtOf, doubtWords } from './sample-doubt';
import { type KeptSample, keptSamples } from './kept-samples';
import { toldPlan } from './told-plan';

export interface SampleView {
  plan: SamplingPlanRow;
  words: string;
  curve: OperatingPoint[];
  /** What the stated risks are with this lab’s measuring doubt; empty for a plan without two risks. */
  doubtWords: string;
  person: string;
  drawnBefore: number;
  picks: {
    id: number;
    number: string;
    label: string | null;
    box: string | null;
    producedOn: string | null;
    /** What it came to first. */
    state: 'short' | 'good' | 'tooClose' | 'held' | 'open' | 'untested';
    /** What it stands as now, where that is another. */
    now?: 'short' | 'good' | 'tooClose' | 'held' | 'open' | 'untested';
  }[];
  /** When it was decided; null where it is open. */
  decidedAt: Date | null;
  /** Each time it was opened again. */
  reopened: { at: Date; reason: string | null; personId: number | null }[];
  /** Short ones in the sample so far, and how many are judged. */
  short: number;
  judged: number;
  outcome: 'open' | 'accepted' | 'failed';
  decision: { act: 'testAll' | 'return' | 'accept'; reason: string } | null;
  /** Where a sequential plan stands; null for one of a fixed number. */
  sequential: SequentialStanding | null;
}

/** A sequential plan after the results so far, in the order the cells were drawn in. */
export interface SequentialStanding extends SequentialState {
  /** Results that count: judged, in their order, held ones passed over. */
  counted: number;
  short: number;
  /** Limits after each result. */
  limits: StoppingLimits[];
  /** Cells to test next, in their order. */
  next: string[];
}

type Pick = SampleView['picks'][number];

/** What the assessment of its capacity makes of a drawn cell. */
function pickState(verdict: string | undefined, value: number | null): Pick['state'] {
  if (verdict === 'notMet') return 'short';
  if (verdict === 'met') return 'good';
  if (verdict === 'held') return 'held';
  if (verdict === 'tooClose') return 'tooClose';
  return value ? 'open' : 'untested';
}

/** Results of a sequential plan in their order: up to the first cell that has none yet. */
function standingOf(plan: SamplingPlanRow, picks: readonly Pick[]): SequentialStanding {
  const number = (name: string) => Number(plan.parameters[name]);
  const limits = stoppingLimits(
    sequentialRequest(plan.lotSize, {
      goodPct: number('goodPct'),
      producerRiskPct: number('producerRiskPct'),
      badPct: number('badPct'),
      consumerRiskPct: number('consumerRiskPct'),
    }),
    { producer: number('strictProducer'), consumer: number('strictConsumer') },
  );
  const results: boolean[] = [];
  let at = 0;
  for (; at < picks.length && results.length < limits.length; at++) {
    const { state } = picks[at]!;
    // What is held says nothing: the next of the order stands in its place.
    if (state === 'held') continue;
    if (state === 'open' || state === 'untested') break;
    results.push(state !== 'good');
  }
  const said = sequentialState({ limits }, results);
  const counted = firstDecision(limits, results) ?? results.length;
  const most = Math.min(said.toAccept ?? Infinity, said.toReject ?? Infinity, 12);
  return {
    ...said,
    counted,
    short: results.slice(0, counted).filter(Boolean).length,
    limits,
    next:
      said.decision === 'goOn'
        ? picks
            .slice(at)
            .filter(({ state }) => state === 'open' || state === 'untested')
            .slice(0, most)
            .map((pick) => pick.number)
        : [],
  };
}

/** After how many results it was decided; null where it is not. */
function firstDecision(
  limits: readonly StoppingLimits[],
  results: readonly boolean[],
): number | null {
  let short = 0;
  for (const [i, isShort] of results.entries()) {
    short += Number(isShort);
    if (short >= limits[i]!.rejectAtLeast || short <= limits[i]!.acceptAtMost) return i + 1;
  }
  return null;
}

type Standing = Omit<
  SampleView,
  'plan' | 'words' | 'curve' | 'person' | 'drawnBefore' | 'doubtWords'
>;
type DrawnCell = Omit<Pick, 'state'>;
type Assessed = { state: string; value: number | null };

/** What the assessment of a drawn cell is to its sample. */
export const sampleStateOf = ({ state, value }: Assessed): Pick['state'] => pickState(state, value);

/** What a sample comes to by what its cells came to first, and are assessed as where nothing is kept. */
export function planOutcome(
  plan: SamplingPlanRow,
  capacities: ReadonlyMap<number, Assessed>,
  kept: KeptSample,
): SampleView['outcome'] {
  const cells = plan.cellIds.map((id) => ({
    id,
    number: '',
    label: null,
    box: null,
    producedOn: null,
  }));
  return standOf(plan, cells, { capacities, entries: [], kept }).outcome;
}

/** How a drawn sample stands, after what is known of its cells. */
function standOf(
  plan: SamplingPlanRow,
  cells: readonly DrawnCell[],
  {
    capacities,
    entries,
    kept,
  }: {
    capacities: ReadonlyMap<number, Assessed>;
    entries: readonly ReceivingEntryRow[];
    kept: KeptSample | undefined;
  },
): Standing {
  const picks = cells.map((cell): Pick => {
    const first = kept?.first.get(cell.id);
    const capacity = capacities.get(cell.id);
    const now = pickState(capacity?.state, capacity?.value ?? null);
    const state = (first?.state as Pick['state'] | undefined) ?? now;
    // What it came to first counts, whatever it is found to hold later.
    return { ...cell, state, ...(first && state !== now ? { now } : {}) };
  });
  if (plan.method === 'sequential') {
    const place = new Map(plan.cellIds.map((id, i) => [id, i]));
    picks.sort((a, b) => place.get(a.id)! - place.get(b.id)!);
  }
  const sequential = plan.method === 'sequential' ? standingOf(plan, picks) : null;
  // A sequential plan counts in its order, and what is too close as short.
  const short = sequential?.short ?? picks.filter((pick) => pick.state === 'short').length;
  const judged =
    sequential?.counted ??
    picks.filter((pick) => pick.state === 'short' || pick.state === 'good').length;
  const decision = entries.find((entry) => entry.field === 'decision')?.value as
    ({ planId: number } & NonNullable<SampleView['decision']>) | undefined;
  return {
    picks,
    short,
    judged,
    // What is decided stays decided.
    outcome:
      (kept?.decided?.state as Standing['outcome'] | undefined) ??
      outcomeOf(plan, { short, undecided: picks.length - judged, sequential }),
    decidedAt: kept?.decided?.at ?? null,
    reopened: kept?.reopened.map(({ at, reason, personId }) => ({ at, reason, personId })) ?? [],
    decision: decision && decision.planId === plan.id ? decision : null,
    sequential,
  };
}

function outcomeOf(
  plan: SamplingPlanRow,
  {
    short,
    undecided,
    sequential,
  }: { short: number; undecided: number; sequential: SequentialStanding | null },
): SampleView['outcome'] {
  // Where every cell is tested there is no sample to accept a lot by.
  if (plan.method === 'all') return undecided === 0 ? 'accepted' : 'open';
  if (sequential)
    return ({ accept: 'accepted', reject: 'failed', goOn: 'open' } as const)[sequential.decision];
  if (short > plan.acceptance) return 'failed';
  return short + undecided <= plan.acceptance ? 'accepted' : 'open';
}

/** What the capacity of each drawn cell was assessed as. */
async function capacitiesOf(lab: Lab, cellId: number[]): Promise<Map<number, Assessed>> {
  const rows = await lab.store.verdicts.assessments.find(
    { cellId, item: 'capacity' },
    { columns: ['cellId', 'state', 'value'] },
  );
  return new Map(rows.map((row) => [row.cellId, row]));
}

/** How the newest samples of some lots stand, asked of all at once: by lot; lots without one are left out. */
export async function sampleStandings(
  lab: Lab,
  lotIds: readonly number[],
): Promise<Map<number, Standing>> {
  const { store } = lab;
  const drawn = await store.arrivals.samplingPlans.find(
    { lotId: [...lotIds] },
    { order: [['id', 'ASC']] },
  );
  const plans = [...new Map(drawn.map((plan) => [plan.lotId, plan])).values()];
  if (plans.length === 0) return new Map();
  const cellIds = plans.flatMap((plan) => plan.cellIds);
  const [cells, capacities, kept, entries] = await Promise.all([
    store.cells.find(
      { id: cellIds },
      { order: [['position', 'ASC']], columns: ['id', 'lotId', 'number', 'label', 'box'] },
    ),
    capacitiesOf(lab, cellIds),
    keptSamples(
      lab,
      plans.map(({ id }) => id),
    ),
    store.arrivals.newestReceiving(plans.map(({ lotId }) => lotId)),
  ]);
  const [cellsOf, entriesOf] = [byLot(cells), byLot(entries)];
  return new Map(
    plans.map((plan) => [
      plan.lotId,
      standOf(
        plan,
        (cellsOf.get(plan.lotId) ?? []).map((cell) => ({ ...cell, producedOn: null })),
        { capacities, entries: entriesOf.get(plan.lotId) ?? [], kept: kept.get(plan.id) },
      ),
    ]),
  );
}

/** The lot’s newest sample, how it stands, and what was decided when it failed. */
async function sampleOfLot(lab: Lab, lotId: number): Promise<SampleView | null> {
  const { store } = lab;
  const plan = await store.arrivals.samplingPlans.one({ lotId }, { order: [['id', 'DESC']] });
  if (!plan) return null;
  const [cells, arrivals, capacities, entries, person, drawn, kept, doubt] = await Promise.all([
    store.cells.find(
      { id: plan.cellIds },
      { order: [['position', 'ASC']], columns: ['id', 'number', 'label', 'box'] },
    ),
    store.arrivals.cells.find({ cellId: plan.cellIds }, { columns: ['cellId', 'producedOn'] }),
    capacitiesOf(lab, plan.cellIds),
    store.arrivals.newestReceiving(lotId),
    store.people.one({ id: plan.personId }),
    store.arrivals.samplingPlans.count({ lotId }),
    keptSamples(lab, [plan.id]),
    doubtOf(lab, lotId),
  ]);
  const produced = new Map(arrivals.map((row) => [row.cellId, row.producedOn]));
  const known = cells.map((cell) => ({ ...cell, producedOn: produced.get(cell.id) ?? null }));
  return {
    plan,
    ...toldPlan(plan),
    person: person?.name ?? '',
    drawnBefore: drawn - 1,
    doubtWords: doubtWords(plan, doubt),
    ...standOf(plan, known, { capacities, entries, kept: kept.get(plan.id) }),
  };
}

export const lotSample = question({
  role: 'technician',
  input: z.object({ lotId: z.int() }),
  run: (lab, { lotId }) => sampleOfLot(lab, lotId),
});
