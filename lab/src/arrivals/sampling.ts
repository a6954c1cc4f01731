import { drawOrder, drawSample } from '@dusk-tally/core/arrivals';
import type { SamplingPlanRow } from '@dusk-tally/store';
import { z } from 'zod';
import { LabError, procedure } from '../shared';
import { openLot } from '../lots';
import { planFor, planInput } from './plan-for';
import { keepSampleResults } from './sample-results';

/** Cells drawn beyond the most a sequential plan tests, in the place of those whose result is held. */
const spareFor = (sampleSize: number): number => Math.max(3, Math.ceil(sampleSize / 5));

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
      plan.sequential
        ? Math.min(cells.length, plan.sampleSize + spareFor(plan.sampleSize))
        : plan.sampleSize,
      input.seed,
    );
    const { method, ...asked } = input.plan;
    // How far in the boundaries were drawn is kept: it need not be searched again.
    const parameters = plan.sequential
      ? {
          ...asked,
          strictProducer: plan.sequential.strictness.producer,
          strictConsumer: plan.sequential.strictness.consumer,
        }
      : asked;
    const row = await store.arrivals.samplingPlans.insert(
      {
        lotId: lot.id,
        method,
        parameters,
        lotSize: plan.lotSize,
        sampleSize: plan.sampleSize,
        acceptance: plan.acceptance,
        seed: input.seed,
        cellIds: plan.sequential ? drawOrder(draw.ids, input.seed) : draw.ids,
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
    // Where cells were tested before they were drawn, their results count from now on.
    await keepSampleResults(lab, lot.id, transaction);
    return row;
  },
});
