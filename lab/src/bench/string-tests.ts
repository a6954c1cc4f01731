import {
  loadTestStep,
  type LoadTestStep,
  packAgainstWeakest,
  type PackJudgement,
  rateStood,
} from '@dusk-tally/core/bench';
import type { RunSummary, StringStep, StringTestRow, Transaction } from '@dusk-tally/store';
import { z } from 'zod';
import { loadClaim, openLot } from '../lots';
import { found, isDuplicate, type Lab, LabError, procedure, question } from '../shared';

const number = z.number('Expected a number.').finite();
const above0 = number.positive('Expected a number above 0.');
const maybe = (schema: z.ZodNumber) =>
  schema.nullish().transform((value): number | null => value ?? null);
const volts = number.min(-10).max(1000, 'Expected a voltage up to 1 000 V.');

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

const resultOf = (step: StringStep): LoadTestStep =>
  loadTestStep({ ...step, jointC: step.jointC.map((celsius) => celsius ?? NaN) });

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
  return numbers.map((one) => {
    const row = byNumber.get(one.toUpperCase());
    if (!row)
      throw new LabError('notFound', `There is no cell ${one}. Nothing was stored.`, {
        field: 'cells',
      });
    return row;
  });
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

export interface StringTestLine {
  id: number;
  title: string;
  lot: string;
  cells: number;
  states: number[];
  standOut: string[];
  hotJoints: number;
  updatedAt: Date;
}

type Logged = NonNullable<RunSummary['string']>;

/** What a test says of the cell at one place: the worst of its states of charge, else its log. */
function atPlace(
  results: readonly LoadTestStep[],
  logged: Logged | null,
  place: number,
): { mohm: number; expandedMohm: number | null; standsOut: boolean } | null {
  const read = results.flatMap((step) => step.cells[place - 1] ?? []);
  const worst = read.find((cell) => cell.standsOut) ?? read[0];
  if (worst) return { mohm: worst.mohm, expandedMohm: 2 * worst.mohmU, standsOut: worst.standsOut };
  const cell = logged?.cells[place - 1];
  return cell
    ? { mohm: cell.mohm, expandedMohm: cell.expandedMohm, standsOut: cell.standsOut }
    : null;
}

async function loggedOf(lab: Lab, rows: readonly StringTestRow[]): Promise<Map<number, Logged>> {
  const ids = rows.flatMap(({ runId }) => runId ?? []);
  const runs =
    ids.length > 0 ? await lab.store.runs.find({ id: ids }, { columns: ['id', 'summary'] }) : [];
  return new Map(
    runs.flatMap(({ id, summary }) => (summary.string ? [[id, summary.string] as const] : [])),
  );
}

/** Load tests of strings, newest first. */
export const stringTests = question({
  role: 'technician',
  input: z.object({}),
  run: async (lab): Promise<StringTestLine[]> => {
    const { bench, lots, cells } = lab.store;
    const rows = await bench.stringTests.find({}, { order: [['id', 'DESC']], limit: 200 });
    if (rows.length === 0) return [];
    const [places, lotRows, logged] = await Promise.all([
      bench.stringTestCells.find({ stringTestId: rows.map(({ id }) => id) }),
      lots.find({ id: rows.map(({ lotId }) => lotId) }, { columns: ['id', 'code'] }),
      loggedOf(lab, rows),
    ]);
    const numbers = new Map(
      (
        await cells.find(
          { id: [...places.map(({ cellId }) => cellId)] },
          { columns: ['id', 'number'] },
        )
      ).map(({ id, number: name }) => [id, name]),
    );
    const codes = new Map(lotRows.map(({ id, code }) => [id, code]));
    return rows.map((row): StringTestLine => {
      const results = row.steps.map(resultOf);
      const log = row.runId === null ? null : (logged.get(row.runId) ?? null);
      const count = results[0]?.cells.length ?? log?.cells.length ?? 0;
      const names = new Map(
        places
          .filter(({ stringTestId }) => stringTestId === row.id)
          .map(({ place, cellId }) => [place, numbers.get(cellId) ?? '']),
      );
      return {
        id: row.id,
        title: row.title,
        lot: codes.get(row.lotId) ?? '',
        cells: count,
        states: row.steps.map(({ stateOfChargePct }) => stateOfChargePct),
        standOut: Array.from({ length: count }, (_, i) => i + 1)
          .filter((place) => atPlace(results, log, place)?.standsOut)
          .map((place) => names.get(place) ?? `place ${place}`),
        hotJoints: results.reduce((sum, { hotJoints }) => sum + hotJoints.length, 0),
        updatedAt: row.updatedAt,
      };
    });
  },
});

export interface StringTestView {
  row: StringTestRow;
  lot: { id: number; code: string; title: string };
  /** As the data sheet says, N·m; null where it does not. */
  modelTorqueNm: number | null;
  ratedAh: number | null;
  cells: { place: number; number: string; capacityAh: number | null }[];
  logged: Logged | null;
  stood: { amps: number; it: number } | null;
  pack: PackJudgement | null;
  by: string;
}

/** One load test with all that follows from it. */
export const stringTest = question({
  role: 'technician',
  input: z.object({ id: z.int() }),
  run: async (lab, { id }): Promise<StringTestView> => {
    const { bench, cells, verdicts, people } = lab.store;
    const row = found(await bench.stringTests.one({ id }), 'That load test');
    const [{ lot, model, claim }, places, logged, person] = await Promise.all([
      loadClaim(lab, row.lotId),
      bench.stringTestCells.find({ stringTestId: id }, { order: [['place', 'ASC']] }),
      loggedOf(lab, [row]),
      people.one({ id: row.personId }, { columns: ['name'] }),
    ]);
    const ids = [...places.map(({ cellId }) => cellId), 0];
    const [rows, stands] = await Promise.all([
      cells.find({ id: ids }, { columns: ['id', 'number'] }),
      verdicts.assessments.find(
        { cellId: ids, item: 'capacity' },
        { columns: ['cellId', 'value', 'standardUncertainty'] },
      ),
    ]);
    const names = new Map(rows.map((cell) => [cell.id, cell.number]));
    const capacity = new Map(stands.map((one) => [one.cellId, one]));
    const ratedAh = claim.capacityAh?.value ?? model.ratedAh;
    const known = places.flatMap(({ cellId }) => {
      const { value = null, standardUncertainty: u = null } = capacity.get(cellId) ?? {};
      return value === null ? [] : [{ ah: value, u, name: names.get(cellId) ?? '' }];
    });
    const weakest = [...known].sort((a, b) => a.ah - b.ah)[0];
    return {
      row,
      lot: { id: lot.id, code: lot.code, title: lot.title },
      modelTorqueNm: model.terminalTorqueNm,
      ratedAh,
      cells: places.map(({ place, cellId }) => ({
        place,
        number: names.get(cellId) ?? '',
        capacityAh: capacity.get(cellId)?.value ?? null,
      })),
      logged: row.runId === null ? null : (logged.get(row.runId) ?? null),
      stood: ratedAh
        ? rateStood(
            row.steps.map((step) => ({ highA: step.highA, result: resultOf(step) })),
            ratedAh,
          )
        : null,
      // Weakest of all only where every cell was measured.
      pack:
        row.packAh !== null && weakest && places.length > 0 && known.length === places.length
          ? packAgainstWeakest({ ah: row.packAh, u: row.packAhU }, weakest, row.balancedAh ?? 0)
          : null,
      by: person?.name ?? '',
    };
  },
});

export interface PlaceInString {
  testId: number;
  title: string;
  place: number;
  mohm: number;
  expandedMohm: number | null;
  standsOut: boolean;
  /** Neighbours in the string that stand out too. */
  badNeighbours: string[];
  at: Date;
}

/** Where a cell stood in load tests of strings, newest first. */
export async function placesInStrings(lab: Lab, cellId: number): Promise<PlaceInString[]> {
  const { bench, cells } = lab.store;
  const own = await bench.stringTestCells.find({ cellId });
  if (own.length === 0) return [];
  const rows = await bench.stringTests.find(
    { id: own.map(({ stringTestId }) => stringTestId) },
    { order: [['id', 'DESC']] },
  );
  const logged = await loggedOf(lab, rows);
  const all = await bench.stringTestCells.find({ stringTestId: rows.map(({ id }) => id) });
  const names = new Map(
    (await cells.find({ id: all.map((one) => one.cellId) }, { columns: ['id', 'number'] })).map(
      (cell) => [cell.id, cell.number],
    ),
  );
  return rows.flatMap((row): PlaceInString[] => {
    const { place } = own.find(({ stringTestId }) => stringTestId === row.id)!;
    const results = row.steps.map(resultOf);
    const log = row.runId === null ? null : (logged.get(row.runId) ?? null);
    const said = atPlace(results, log, place);
    if (!said) return [];
    const badNeighbours = [place - 1, place + 1]
      .filter((beside) => atPlace(results, log, beside)?.standsOut)
      .map((beside) => {
        const cell = all.find((one) => one.stringTestId === row.id && one.place === beside);
        return (cell && names.get(cell.cellId)) ?? `cell ${beside}`;
      });
    return [{ testId: row.id, title: row.title, place, ...said, badNeighbours, at: row.updatedAt }];
  });
}

/** Lots a string can be made of, newest first, with the torque of their model’s data sheet. */
export const stringLots = question({
  role: 'technician',
  input: z.object({}),
  run: async (
    lab,
  ): Promise<{ id: number; code: string; title: string; torqueNm: number | null }[]> => {
    const [lots, models] = await Promise.all([
      lab.store.lots.find({ cancelledAt: null }, { order: [['id', 'DESC']] }),
      lab.store.cellModels.find({}, { columns: ['id', 'terminalTorqueNm'] }),
    ]);
    const torque = new Map(models.map((model) => [model.id, model.terminalTorqueNm]));
    return lots.map(({ id, code, title, modelId }) => ({
      id,
      code,
      title,
      torqueNm: torque.get(modelId) ?? null,
    }));
  },
});

/** The string a log holds. @throws LabError where it holds none. */
export const stringOfRun = question({
  role: 'technician',
  input: z.object({ runId: z.int() }),
  run: async (lab, { runId }): Promise<{ runId: number; lotId: number; string: Logged }> => {
    const run = found(
      await lab.store.runs.one({ id: runId }, { columns: ['id', 'lotId', 'summary'] }),
      'That log',
    );
    const string = found(run.summary.string, 'A string in that log');
    return { runId, lotId: run.lotId, string };
  },
});

/** The load test that says which cells a log’s string is made of; null where none does. */
export async function testOfRun(
  lab: Lab,
  runId: number,
): Promise<{ id: number; cells: string[] } | null> {
  const { bench, cells } = lab.store;
  const test = await bench.stringTests.one({ runId }, { columns: ['id'] });
  if (!test) return null;
  const places = await bench.stringTestCells.find(
    { stringTestId: test.id },
    { order: [['place', 'ASC']] },
  );
  const rows = await cells.find(
    { id: [...places.map(({ cellId }) => cellId)] },
    { columns: ['id', 'number'] },
  );
  const names = new Map(rows.map((cell) => [cell.id, cell.number]));
  return { id: test.id, cells: places.map(({ cellId }) => names.get(cellId) ?? '') };
}
