import type { RunSummary, Transaction } from '@dusk-tally/store';
import { z } from 'zod';
import { openLot } from '../lots';
import { found, isDuplicate, type Lab, LabError, procedure } from '../shared';
import { resultOf } from './string-tests';

const number = z.number('Expected a number.').finite();

const above0 = number.positive('Expected a number above 0.');

const maybe = (schema: z.ZodNumber) =>
  schema.nullish().transform((value): number | null => value ?? null);

const CELL_VOLTS = 'Expected a cell’s voltage of −1 to 10 V.';
const volts = number.min(-1, CELL_VOLTS).max(10, CELL_VOLTS);

const stepInput = z.object({
  stateOfChargePct: number.min(0).max(100, 'Expected 0 to 100 %.'),
  lowA: number.min(0, 'Expected a current of 0 A or more.').max(5000),
  highA: above0.max(5000),
  lowV: z.array(volts).min(1, 'Expected the voltage of each cell.').max(400),
  highV: z.array(volts).min(1, 'Expected the voltage of each cell.').max(400),
  jointC: z
    .array(number.min(-40).max(400, 'Expected a temperature up to 400 °C.').nullable())
    .max(401),
});

export const stringTestInput = z.object({
  /** Of an existing test, with the version it was read at. */
  id: z.int().nullish(),
  version: z.int().nullish(),
  lotId: z.int(),
  title: z.string().trim().min(1, 'Expected a name for the string.').max(120),
  runId: z
    .int()
    .nullish()
    .transform((value) => value ?? null),
  /** Numbers of the cells in their order, from the positive end; empty where they are not known. */
  cells: z.array(z.string().trim().min(1).max(20)).max(400),
  torqueNm: maybe(above0.max(500)),
  cableMm2: maybe(above0.max(1000)),
  cableM: maybe(above0.max(100)),
  packAh: maybe(above0.max(100_000)),
  packAhU: maybe(number.min(0).max(10_000)),
  balancedAh: maybe(number.min(0).max(10_000)),
  steps: z.array(stepInput).max(20),
});

/** Cells by their numbers, in order. @throws LabError naming those that are not here or come twice. */
async function cellsByNumber(lab: Lab, numbers: readonly string[], transaction: Transaction) {
  const upper = numbers.map((one) => one.toUpperCase());
  const twice = numbers.find((_, i) => upper.indexOf(upper[i]!) !== i);
  if (twice)
    throw new LabError('invalid', `${twice} stands in the string twice.`, { field: 'cells' });
  const rows =
    numbers.length === 0
      ? []
      : await lab.store.cells.find({ number: [...numbers] }, { transaction });
  const byNumber = new Map(rows.map((row) => [row.number.toUpperCase(), row]));
  const found = numbers.map((one) => {
    const row = byNumber.get(one.toUpperCase());
    if (!row)
      throw new LabError('notFound', `There is no cell ${one}. Nothing was stored.`, {
        field: 'cells',
      });
    return row;
  });
  const other = found.find(({ lotId }) => lotId !== found[0]!.lotId);
  if (other)
    throw new LabError(
      'invalid',
      `${other.number} is of another lot than ${found[0]!.number}: expected the cells of one lot.`,
      { field: 'cells' },
    );
  return found;
}

/** How many cells a string test speaks of. @throws LabError where steps, log and cells differ. */
function requireAlike(
  input: z.output<typeof stringTestInput>,
  logged: RunSummary['string'] | undefined,
): void {
  const counts = [
    ...input.steps.map((step) => step.lowV.length),
    ...(logged ? [logged.cells.length] : []),
    ...(input.cells.length > 0 ? [input.cells.length] : []),
  ];
  const other = counts.find((count) => count !== counts[0]);
  if (other !== undefined)
    throw new LabError(
      'invalid',
      `Expected the same number of cells everywhere; found ${counts[0]} and ${other}.`,
      { field: 'cells' },
    );
  if (counts.length === 0)
    throw new LabError('invalid', 'Expected readings of at least one state of charge, or a log.');
  for (const step of input.steps)
    try {
      resultOf(step);
    } catch (error) {
      throw new LabError('invalid', (error as Error).message);
    }
}

/** Stores a load test of a string, or changes one. */
export const saveStringTest = procedure({
  role: 'technician',
  input: stringTestInput,
  run: async ({ lab, actor, input, transaction, audit }): Promise<{ id: number }> => {
    const { bench, runs } = lab.store;
    const cells = await cellsByNumber(lab, input.cells, transaction);
    // Named cells say themselves of what lot they are.
    const lot = await openLot(lab, cells[0]?.lotId ?? input.lotId, transaction);
    const run =
      input.runId === null
        ? null
        : found(await runs.one({ id: input.runId }, { transaction }), 'That log');
    if (run && !run.summary.string)
      throw new LabError('invalid', 'That log holds no string between two loads.');
    requireAlike(input, run?.summary.string);
    const { id, version, cells: _numbers, ...fields } = input;
    const row = { ...fields, lotId: lot.id, updatedAt: lab.now() };
    let testId = id ?? 0;
    if (id) {
      const before = found(
        await bench.stringTests.one({ id }, { transaction, forUpdate: true }),
        'That load test',
      );
      if (before.version !== version)
        throw new LabError(
          'conflict',
          'Someone changed this load test meanwhile. Reload to see how; yours is still on the screen.',
        );
      await bench.stringTests.update(
        { ...row, version: before.version + 1 },
        { id: before.id },
        transaction,
      );
      await bench.stringTestCells.remove({ stringTestId: id }, transaction);
    } else
      testId = (
        await bench.stringTests
          .insert({ ...row, personId: actor.id, createdAt: lab.now() }, transaction)
          .catch((error: unknown) => {
            if (isDuplicate(error))
              throw new LabError('duplicate', 'Cells of this log were assigned already.');
            throw error;
          })
      ).id;
    await bench.stringTestCells.insertMany(
      cells.map((cell, i) => ({ stringTestId: testId, place: i + 1, cellId: cell.id })),
      transaction,
    );
    await audit({
      act: id ? 'changed load test' : 'kept load test',
      subjectType: 'lot',
      subjectId: lot.code,
      after: { title: input.title, cells: input.cells, steps: input.steps.length },
    });
    return { id: testId };
  },
});
