import type { CellRow, ResultHoldRow, RunRow, Transaction } from '@dusk-tally/store';
import { z } from 'zod';
import { openLot } from '../lots';
import { found, type Lab, LabError, procedure, question } from '../shared';
import { clash, reason } from './hold-parts';

const RULED: ResultHoldRow['rule'][] = [
  'tooMuch',
  'understated',
  'impossibleVoltage',
  'twoCounts',
  'outOfNothing',
  'disagrees',
  'cutOffInHole',
  'clock',
  'swapped',
  'outOfLine',
];

type MovingRun = Pick<RunRow, 'id' | 'cellId' | 'lotId'>;
type MovedCell = Pick<CellRow, 'id' | 'lotId' | 'number'>;

/** Gives one run to another cell with all that was found of it and said of it by people. */
async function giveRun(
  lab: Lab,
  { run, from, to }: { run: MovingRun; from: MovedCell; to: MovedCell },
  { reason: why, personId }: { reason: string; personId: number },
  transaction: Transaction,
): Promise<void> {
  const { runs, results } = lab.store;
  const place = { cellId: to.id, lotId: to.lotId };
  await runs.update(place, { id: run.id }, transaction);
  await results.moveFigures(run.id, place, transaction);
  // What a rule said was said of the other cell; a person's word goes with the run.
  await results.holds.remove({ runId: run.id, rule: RULED }, transaction);
  await results.holds.update(place, { runId: run.id }, transaction);
  await results.moves.insert(
    {
      runId: run.id,
      fromLotId: from.lotId,
      fromCellId: from.id,
      toLotId: to.lotId,
      toCellId: to.id,
      reason: why,
      personId,
      at: lab.now(),
    },
    transaction,
  );
}

/** A log or run that was given to the wrong cell goes to the right one; both are made new. */
export const moveRun = procedure({
  role: 'lead',
  input: z.object({
    runId: z.int(),
    toCell: z.string().trim().min(1, 'Expected the number of the right cell.').max(20),
    reason,
  }),
  run: async ({ lab, actor, input, transaction, audit, changed }): Promise<{ cell: string }> => {
    const { store } = lab;
    const run = found(
      await store.runs.one({ id: input.runId }, { transaction, forUpdate: true }),
      'That run',
    );
    const from = found(await store.cells.one({ id: run.cellId }, { transaction }), 'Its cell');
    const to = found(
      await store.cells.one({ number: input.toCell.toUpperCase() }, { transaction }),
      `Cell ${input.toCell}`,
    );
    if (to.id === from.id)
      throw new LabError('invalid', `This run is of ${from.number} already.`, { field: 'toCell' });
    const models = new Set<number>();
    for (const lotId of [...new Set([from.lotId, to.lotId])].sort((a, b) => a - b))
      models.add((await openLot(lab, lotId, transaction, true)).modelId);
    if (models.size > 1)
      throw new LabError(
        'invalid',
        `${to.number} is of another cell model than ${from.number}: expected a cell of the same model.`,
        { field: 'toCell' },
      );
    const said = { reason: input.reason, personId: actor.id };
    await giveRun(lab, { run, from, to }, said, transaction);
    for (const { lotId, id } of [from, to]) {
      changed({ what: 'runs', lotId, cellIds: [id] });
      changed({ what: 'holds', lotId, cellIds: [id] });
    }
    for (const subjectId of [from.number, to.number])
      await audit({
        act: 'moved run',
        subjectType: 'cell',
        subjectId,
        before: { runId: run.id, cell: from.number },
        after: { cell: to.number, reason: input.reason },
      });
    return { cell: to.number };
  },
});

/** Two logs that are held as swapped go to each other’s cells, both or none. */
export const exchangeRuns = procedure({
  role: 'lead',
  input: z.object({ holdId: z.int(), version: z.int(), reason }),
  run: async ({ lab, actor, input, transaction, audit, changed }): Promise<{ cells: string[] }> => {
    const { store } = lab;
    const place = found(
      await store.results.holds.one({ id: input.holdId }, { transaction }),
      'That hold',
    );
    await openLot(lab, place.lotId, transaction, true);
    const hold = await store.results.holds.one(
      { id: input.holdId },
      { transaction, forUpdate: true },
    );
    if (
      !hold?.runId ||
      !hold.otherRunId ||
      hold.liftedAt !== null ||
      hold.version !== input.version
    )
      return clash();
    const runs = [];
    for (const id of [hold.runId, hold.otherRunId].sort((a, b) => a - b))
      runs.push(found(await store.runs.one({ id }, { transaction, forUpdate: true }), 'That run'));
    const [a, b] = runs as [RunRow, RunRow];
    // A run that was moved meanwhile is no longer what was held.
    if (a.lotId !== hold.lotId || b.lotId !== hold.lotId || a.cellId === b.cellId) return clash();
    const cells = await store.cells.find({ id: [a.cellId, b.cellId] }, { transaction });
    const cellOf = (run: RunRow) => cells.find(({ id }) => id === run.cellId)!;
    const [ofA, ofB] = [cellOf(a), cellOf(b)];
    const said = { reason: input.reason, personId: actor.id };
    await giveRun(lab, { run: a, from: ofA, to: ofB }, said, transaction);
    await giveRun(lab, { run: b, from: ofB, to: ofA }, said, transaction);
    for (const what of ['runs', 'holds'] as const)
      changed({ what, lotId: hold.lotId, cellIds: [ofA.id, ofB.id] });
    for (const [run, from, to] of [
      [a, ofA, ofB],
      [b, ofB, ofA],
    ] as const)
      await audit({
        act: 'moved run',
        subjectType: 'cell',
        subjectId: from.number,
        before: { runId: run.id, cell: from.number },
        after: { cell: to.number, reason: input.reason },
      });
    return { cells: [ofA.number, ofB.number] };
  },
});

/** A run that came to a cell or left it. */
export interface MoveLine {
  id: number;
  runId: number;
  from: string;
  to: string;
  reason: string;
  person: string;
  at: Date;
}

/** Moves of runs to and from a cell. */
export const movesOfCell = question({
  role: 'technician',
  input: z.object({ cellId: z.int() }),
  run: async (lab, { cellId }): Promise<MoveLine[]> => {
    const { store } = lab;
    const rows = [
      ...(await store.results.moves.find({ fromCellId: cellId })),
      ...(await store.results.moves.find({ toCellId: cellId })),
    ].sort((a, b) => a.id - b.id);
    if (rows.length === 0) return [];
    const ids = [...new Set(rows.flatMap((row) => [row.fromCellId, row.toCellId]))];
    const [people, cells] = await Promise.all([
      store.people.find({}, { columns: ['id', 'name'] }),
      store.cells.find({ id: ids }, { columns: ['id', 'number'] }),
    ]);
    const name = new Map(people.map((person) => [person.id, person.name]));
    const number = new Map(cells.map((cell) => [cell.id, cell.number]));
    return rows.map(({ id, runId, fromCellId, toCellId, reason: why, personId, at }) => ({
      id,
      runId,
      from: number.get(fromCellId) ?? '',
      to: number.get(toCellId) ?? '',
      reason: why,
      person: name.get(personId) ?? '',
      at,
    }));
  },
});
