import {
  besideLot,
  decidedGrade,
  gradeCell,
  type GradeScheme,
  needsLot,
} from '@dusk-tally/core/verdicts';
import type { LotRow, StandingRow, Transaction } from '@dusk-tally/store';
import { schemeTrial } from '../../inputs';
import { found, type Lab, question } from '../../shared';
import { groundsOf } from './grounds';
import { saidOf } from './said-of-cells';
import { newestSchemes, scopesOf } from './schemes';

/** A cell that would be of another grade. */
export interface GradeMove {
  cellId: number;
  cell: string;
  lot: string;
  from: string | null;
  to: string | null;
  /** Why it is not of the next better grade then. */
  why: string;
}

/** What another scheme would do to a lot. */
export interface TriedLot {
  code: string;
  title: string;
  cells: number;
  moved: number;
  currency: string;
  /** What its moved cells would bring more; null where one of the grades has no price. */
  gainCents: number | null;
}

/** What another scheme would do, before it is kept. */
export interface SchemeTrial {
  cells: number;
  moved: number;
  /** Every way from a grade to a grade, those that stay among them; null: waiting. */
  flows: { from: string | null; to: string | null; cells: number }[];
  /** Lots something moves in, the most first. */
  lots: TriedLot[];
  /** So many moves are listed. */
  moves: GradeMove[];
}

/** Moves that are listed; the others are counted. */
export const MOST_MOVES = 400;

/** Lots whose cells a scheme of this scope grades. */
export async function lotsOfScope(
  lab: Lab,
  scope: string,
  transaction?: Transaction,
): Promise<LotRow[]> {
  const [models, newest] = await Promise.all([
    lab.store.cellModels.find({}, { transaction }),
    newestSchemes(lab, transaction),
  ]);
  const own = models.filter(
    (model) =>
      scopesOf(model).find(
        (one) => one === scope || one === 'house' || newest.get(one)?.ended === false,
      ) === scope,
  );
  return lab.store.lots.find(
    { modelId: own.map(({ id }) => id) },
    { transaction, order: [['id', 'ASC']] },
  );
}

type Slim = Pick<StandingRow, 'cellId' | 'grade' | 'evidence'>;

/** The grade of every cell of a lot by a scheme that is only tried. */
async function triedGrades(
  lab: Lab,
  lotId: number,
  standings: readonly Slim[],
  scheme: GradeScheme,
  guardFactor: number,
  transaction: Transaction,
): Promise<{ row: Slim; to: string | null; why: string }[]> {
  const [said, grounds] = await Promise.all([
    saidOf(lab, lotId, null, transaction),
    needsLot(scheme) ? groundsOf(lab, lotId, transaction) : null,
  ]);
  return standings.map((row) => {
    const beside = besideLot(row.evidence, grounds, String(row.cellId));
    const byScheme = gradeCell(scheme, beside, guardFactor);
    const decision = said.decisions.get(row.cellId);
    const { grade, reasons } = decision
      ? decidedGrade(scheme, byScheme, decision, beside.marks)
      : byScheme;
    return { row, to: grade, why: reasons[0] ?? '' };
  });
}

/** What moved cells of a lot bring more; null as long as one of their grades has no price. */
function gainOf(
  moves: readonly Pick<GradeMove, 'from' | 'to'>[],
  prices: Readonly<Record<string, number>>,
): number | null {
  const priceOf = (grade: string | null) => (grade === null ? 0 : (prices[grade] ?? null));
  let gain = 0;
  for (const { from, to } of moves) {
    const [before, after] = [priceOf(from), priceOf(to)];
    if (before === null || after === null) return null;
    gain += after - before;
  }
  return gain;
}

/** Counts the ways from grade to grade. */
class Flows {
  private readonly counts = new Map<string, SchemeTrial['flows'][number]>();

  add(from: string | null, to: string | null): void {
    const key = JSON.stringify([from, to]);
    const known = this.counts.get(key);
    if (known) known.cells++;
    else this.counts.set(key, { from, to, cells: 1 });
  }

  all(): SchemeTrial['flows'] {
    return [...this.counts.values()].sort((a, b) => b.cells - a.cells);
  }
}

/** Which cells of which lots another scheme would grade otherwise; nothing is changed. */
export const tryScheme = question({
  role: 'technician',
  input: schemeTrial,
  run: async (lab, { scope, scheme }): Promise<SchemeTrial> => {
    const tried: GradeScheme = { ...scheme, version: 0 };
    const { store } = lab;
    return store.transaction(async (transaction) => {
      const lots = await lotsOfScope(lab, scope, transaction);
      const lotIds = lots.map(({ id }) => id);
      const [settings, books] = await Promise.all([
        store.settings.one({ id: 1 }, { transaction }),
        store.books.find({ lotId: lotIds }, { transaction }),
      ]);
      const { guardFactor } = found(settings, 'The lab’s settings');
      const pricesOf = new Map(books.map(({ lotId, gradePrices }) => [lotId, gradePrices]));
      const flows = new Flows();
      const trial: SchemeTrial = { cells: 0, moved: 0, flows: [], lots: [], moves: [] };
      for (const lot of lots) {
        const standings = await store.verdicts.standings.find(
          { lotId: lot.id },
          { transaction, columns: ['cellId', 'grade', 'evidence'] },
        );
        const graded = await triedGrades(lab, lot.id, standings, tried, guardFactor, transaction);
        for (const { row, to } of graded) flows.add(row.grade, to);
        const moved = graded.filter(({ row, to }) => row.grade !== to);
        trial.cells += graded.length;
        trial.moved += moved.length;
        if (moved.length === 0) continue;
        const listed = moved.slice(0, Math.max(0, MOST_MOVES - trial.moves.length));
        const numbers = await store.cells.find(
          { id: listed.map(({ row }) => row.cellId) },
          { transaction, columns: ['id', 'number'] },
        );
        const numberOf = new Map(numbers.map(({ id, number }) => [id, number]));
        trial.moves.push(
          ...listed.map(({ row, to, why }) => ({
            cellId: row.cellId,
            cell: numberOf.get(row.cellId) ?? '',
            lot: lot.code,
            from: row.grade,
            to,
            why,
          })),
        );
        trial.lots.push({
          code: lot.code,
          title: lot.title,
          cells: graded.length,
          moved: moved.length,
          currency: lot.currency,
          gainCents: gainOf(
            moved.map(({ row, to }) => ({ from: row.grade, to })),
            pricesOf.get(lot.id) ?? {},
          ),
        });
      }
      trial.lots.sort((a, b) => b.moved - a.moved);
      return { ...trial, flows: flows.all() };
    });
  },
});
