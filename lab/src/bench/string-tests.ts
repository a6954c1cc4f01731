import {
  loadTestStep,
  type LoadTestStep,
  packAgainstWeakest,
  type PackJudgement,
  rateStood,
} from '@dusk-tally/core/bench';
import type { RunSummary, StringStep, StringTestRow } from '@dusk-tally/store';
import { z } from 'zod';
import { loadClaim } from '../lots';
import { found, type Lab, question } from '../shared';

export const resultOf = (step: StringStep): LoadTestStep =>
  loadTestStep({ ...step, jointC: step.jointC.map((celsius) => celsius ?? NaN) });

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

export type Logged = NonNullable<RunSummary['string']>;

/** What a test says of the cell at one place: the worst of its states of charge, else its log. */
export function atPlace(
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

export async function loggedOf(
  lab: Lab,
  rows: readonly StringTestRow[],
): Promise<Map<number, Logged>> {
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
