import { fullTooEarly, type FullTooEarly, leastParallelHours } from '@dusk-tally/core/bench';
import type { ParallelChargeRow } from '@dusk-tally/store';
import { z } from 'zod';
import { openLot } from '../lots';
import { found, LabError, procedure, question } from '../shared';
import { lotConditions } from './conditions';

const above0 = z.number('Expected a number.').positive('Expected a number above 0.').finite();

/** Begins to keep time for cells of a lot that are charged in parallel on one supply. */
export const beginParallelCharge = procedure({
  role: 'technician',
  input: z.object({
    lotId: z.int(),
    cells: z.int().min(1).max(1000),
    fromSoc: z.number().min(0).max(0.99, 'Expected a state of charge below 99 %.'),
    supplyA: above0.max(5000),
    startedAt: z.coerce.date(),
    /** Voltages of the cells were compared before they were joined (handbook, Safety). */
    voltagesEqual: z.literal(
      true,
      'Compare the voltages before joining the cells: unequal ones drive high currents.',
    ),
  }),
  run: async ({ lab, actor, input, transaction, audit }): Promise<ParallelChargeRow> => {
    const lot = await openLot(lab, input.lotId, transaction);
    const { ratedAh } = await lotConditions(lab, lot.id, transaction);
    const { voltagesEqual: _equal, ...row } = input;
    if (row.startedAt.getTime() > lab.now().getTime() + 60_000)
      throw new LabError('invalid', 'Expected a start that is past.');
    const kept = await lab.store.bench.parallelCharges.insert(
      { ...row, ratedAh, fullAt: null, personId: actor.id },
      transaction,
    );
    await audit({
      act: 'began parallel charge',
      subjectType: 'lot',
      subjectId: lot.code,
      after: row,
    });
    return kept;
  },
});

/** Says when a bank was full; at once it shows what its cells can hold at most. */
export const endParallelCharge = procedure({
  role: 'technician',
  input: z.object({ id: z.int(), fullAt: z.coerce.date() }),
  run: async ({ lab, input, transaction, audit }): Promise<FullTooEarly> => {
    const { parallelCharges } = lab.store.bench;
    const row = found(
      await parallelCharges.one({ id: input.id }, { transaction, forUpdate: true }),
      'That bank',
    );
    const hours = (input.fullAt.getTime() - row.startedAt.getTime()) / 3_600_000;
    if (!(hours > 0)) throw new LabError('invalid', 'Expected an end after the start.');
    await parallelCharges.update({ fullAt: input.fullAt }, { id: row.id }, transaction);
    const judged = judge(row, hours);
    await audit({
      act: 'ended parallel charge',
      subjectType: 'lot',
      subjectId: row.lotId,
      after: { hours, said: judged.sentence },
    });
    return judged;
  },
});

const judge = ({ cells, ratedAh, fromSoc, supplyA }: ParallelChargeRow, hours: number) =>
  fullTooEarly({ cells, ratedAh, fromStateOfCharge: fromSoc, supplyA }, hours);

export interface ParallelChargeView extends ParallelChargeRow {
  leastHours: number;
  /** What its end says; null while it charges. */
  judged: FullTooEarly | null;
}

/** Banks of a lot, newest first. */
export const parallelCharges = question({
  role: 'technician',
  input: z.object({ lotId: z.int() }),
  run: async (lab, { lotId }): Promise<ParallelChargeView[]> =>
    (await lab.store.bench.parallelCharges.find({ lotId }, { order: [['id', 'DESC']] })).map(
      (row) => ({
        ...row,
        leastHours: leastParallelHours({
          cells: row.cells,
          ratedAh: row.ratedAh,
          fromStateOfCharge: row.fromSoc,
          supplyA: row.supplyA,
        }),
        judged: row.fullAt
          ? judge(row, (row.fullAt.getTime() - row.startedAt.getTime()) / 3_600_000)
          : null,
      }),
    ),
});
