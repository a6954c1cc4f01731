import {
  AQLS,
  type DescribedPlan,
  describePlan,
  drawSample,
  LEVELS,
  type OperatingPoint,
} from '@dusk-tally/core/arrivals';
import type { SamplingPlanRow } from '@dusk-tally/store';
import { z } from 'zod';
import { type Lab, LabError, procedure, question } from '../shared';
import { openLot } from '../lots';

const percent = z.number().min(0).max(100);

export const planInput = z.discriminatedUnion('method', [
  z.object({ method: z.literal('all') }),
  z.object({
    method: z.literal('attributes'),
    level: z.enum(LEVELS),
    aql: z.enum(AQLS as [string, ...string[]], 'Expected one of the standard’s AQL steps.'),
  }),
  z.object({
    method: z.literal('risk'),
    goodPct: percent,
    producerRiskPct: percent,
    badPct: percent,
    consumerRiskPct: percent,
  }),
]);
export type PlanInput = z.output<typeof planInput>;

/** A plan for a lot size, in numbers and words. @throws LabError for one that cannot be. */
export function planFor(lotSize: number, input: PlanInput): DescribedPlan {
  try {
    return describePlan(lotSize, input);
  } catch (error) {
    if (error instanceof RangeError) throw new LabError('invalid', error.message);
    throw error;
  }
}

/** Draws a sample and keeps it with its seed; an earlier draw stays on record. */
export const drawPlan = procedure({
  role: 'technician',
  input: z.object({
    lotId: z.int(),
    plan: planInput,
    seed: z.int().min(0).max(4_294_967_295),
    /** Needed when a sample was drawn before: nobody draws until the sample is pretty. */
    reason: z
      .string()
      .trim()
      .max(400)
      .nullish()
      .transform((text) => text || null),
  }),
  run: async ({ lab, actor, input, transaction, audit }): Promise<SamplingPlanRow> => {
    const { store } = lab;
    const lot = await openLot(lab, input.lotId, transaction, true);
    if (lot.quantity === 0)
      throw new LabError('invalid', 'Count the cells first; there is nothing to draw from yet.');
    const earlier = await store.arrivals.samplingPlans.count({ lotId: lot.id }, transaction);
    if (earlier > 0 && !input.reason)
      throw new LabError(
        'invalid',
        'A sample was drawn for this lot already. Drawing again needs a reason, and both stay on record.',
        { field: 'reason' },
      );
    const plan = planFor(lot.quantity, input.plan);
    const cells = await store.cells.find(
      { lotId: lot.id },
      { transaction, columns: ['id', 'box'], order: [['position', 'ASC']] },
    );
    const arrivals = await store.arrivals.cells.find(
      { lotId: lot.id },
      { transaction, columns: ['cellId', 'producedOn'] },
    );
    const produced = new Map(arrivals.map((row) => [row.cellId, row.producedOn]));
    const draw = drawSample(
      cells.map(({ id, box }) => ({ id, box, producedOn: produced.get(id) ?? null })),
      plan.sampleSize,
      input.seed,
    );
    const { method, ...parameters } = input.plan;
    const row = await store.arrivals.samplingPlans.insert(
      {
        lotId: lot.id,
        method,
        parameters,
        lotSize: plan.lotSize,
        sampleSize: plan.sampleSize,
        acceptance: plan.acceptance,
        seed: input.seed,
        cellIds: draw.ids,
        strata: draw.strata,
        reason: input.reason,
        personId: actor.id,
        at: lab.now(),
      },
      transaction,
    );
    await audit({
      act: 'drew sample',
      subjectType: 'lot',
      subjectId: lot.code,
      after: {
        method,
        ...parameters,
        sampleSize: plan.sampleSize,
        acceptance: plan.acceptance,
        seed: input.seed,
        reason: input.reason,
      },
    });
    return row;
  },
});

export interface SampleView {
  plan: SamplingPlanRow;
  words: string;
  curve: OperatingPoint[];
  person: string;
  drawnBefore: number;
  picks: {
    id: number;
    number: string;
    label: string | null;
    box: string | null;
    producedOn: string | null;
    state: 'short' | 'good' | 'open' | 'untested';
  }[];
  /** Short ones in the sample so far, and how many are judged. */
  short: number;
  judged: number;
  outcome: 'open' | 'accepted' | 'failed';
  decision: { act: 'testAll' | 'return' | 'accept'; reason: string } | null;
}

/** The lot’s newest sample, how it stands, and what was decided when it failed. */
export async function sampleOfLot(lab: Lab, lotId: number): Promise<SampleView | null> {
  const { store } = lab;
  const plan = await store.arrivals.samplingPlans.one({ lotId }, { order: [['id', 'DESC']] });
  if (!plan) return null;
  const [cells, arrivals, capacities, entries, person, drawn] = await Promise.all([
    store.cells.find(
      { id: plan.cellIds },
      { order: [['position', 'ASC']], columns: ['id', 'number', 'label', 'box'] },
    ),
    store.arrivals.cells.find({ cellId: plan.cellIds }, { columns: ['cellId', 'producedOn'] }),
    store.verdicts.assessments.find(
      { cellId: plan.cellIds, item: 'capacity' },
      { columns: ['cellId', 'state', 'value'] },
    ),
    store.arrivals.newestReceiving(lotId),
    store.people.one({ id: plan.personId }),
    store.arrivals.samplingPlans.count({ lotId }),
  ]);
  const produced = new Map(arrivals.map((row) => [row.cellId, row.producedOn]));
  const assessed = new Map(capacities.map((row) => [row.cellId, row]));
  const picks = cells.map((cell) => {
    const capacity = assessed.get(cell.id);
    const verdict = capacity?.state;
    return {
      ...cell,
      producedOn: produced.get(cell.id) ?? null,
      state: (verdict === 'notMet'
        ? 'short'
        : verdict === 'met'
          ? 'good'
          : capacity?.value
            ? 'open'
            : 'untested') as SampleView['picks'][number]['state'],
    };
  });
  const short = picks.filter((pick) => pick.state === 'short').length;
  const judged = picks.filter((pick) => pick.state === 'short' || pick.state === 'good').length;
  const undecided = picks.length - judged;
  const decision = entries.find((entry) => entry.field === 'decision')?.value as
    ({ planId: number } & NonNullable<SampleView['decision']>) | undefined;
  const { words, curve } = planFor(plan.lotSize, {
    method: plan.method,
    ...plan.parameters,
  } as PlanInput);
  return {
    plan,
    words,
    curve,
    person: person?.name ?? '',
    drawnBefore: drawn - 1,
    picks,
    short,
    judged,
    outcome: outcomeOf(),
    decision: decision && decision.planId === plan.id ? decision : null,
  };

  function outcomeOf(): SampleView['outcome'] {
    // Where every cell is tested there is no sample to accept a lot by.
    if (plan!.method === 'all') return undecided === 0 ? 'accepted' : 'open';
    if (short > plan!.acceptance) return 'failed';
    return short + undecided <= plan!.acceptance ? 'accepted' : 'open';
  }
}

export const lotSample = question({
  role: 'technician',
  input: z.object({ lotId: z.int() }),
  run: (lab, { lotId }) => sampleOfLot(lab, lotId),
});
