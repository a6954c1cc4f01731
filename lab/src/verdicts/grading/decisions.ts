import { highestGrade, isBetter } from '@dusk-tally/core/verdicts';
import type { CellArrivalRow } from '@dusk-tally/store';
import { z } from 'zod';
import { decisionBack, decisionInput } from '../../inputs';
import { loadClaim, openLot } from '../../lots';
import { found, type Lab, LabError, procedure, question } from '../../shared';
import { marksOf } from './grade-evidence';
import { schemeFor } from './schemes';

/** Why a cell cannot have a grade, whoever says so. */
function refuseBlocked(
  scheme: Parameters<typeof highestGrade>[0],
  grade: string,
  arrival: CellArrivalRow | null,
): void {
  const marks = marksOf(arrival ?? undefined);
  const most = highestGrade(scheme, marks);
  if (!isBetter(scheme, grade, most)) return;
  const why = marks?.dangerous ?? `it was at ${marks!.deepestV!.toFixed(2)} V once`;
  throw new LabError('invalid', `${most} at best: ${why}. No scheme and no person lifts that.`, {
    field: 'grade',
  });
}

/** A lead gives a cell another grade, with a reason that stays visible, on reports too. */
export const decideGrade = procedure({
  role: 'lead',
  input: decisionInput,
  run: async ({ lab, actor, input, transaction, audit, changed }): Promise<{ id: number }> => {
    const { store } = lab;
    const { decisions } = store.grading;
    const cell = found(await store.cells.one({ id: input.cellId }, { transaction }), 'That cell');
    await openLot(lab, cell.lotId, transaction, true);
    const { model } = await loadClaim(lab, cell.lotId, transaction);
    const scheme = await schemeFor(lab, model, transaction);
    if (!scheme.grades.some(({ name }) => name === input.grade))
      throw new LabError(
        'invalid',
        `Expected one of ${scheme.grades.map(({ name }) => name).join(', ')}.`,
        { field: 'grade' },
      );
    refuseBlocked(
      scheme,
      input.grade,
      await store.arrivals.cells.one({ cellId: cell.id }, { transaction }),
    );
    const standing = await decisions.one(
      { cellId: cell.id, takenBackAt: null },
      { transaction, forUpdate: true },
    );
    if (standing)
      throw new LabError(
        'conflict',
        `${cell.number} has a grade by decision already: ${standing.grade}. Take that back first.`,
      );
    const { id } = await decisions.insert(
      {
        lotId: cell.lotId,
        cellId: cell.id,
        grade: input.grade,
        reason: input.reason,
        personId: actor.id,
        at: lab.now(),
        takenBackAt: null,
        takenBackBy: null,
        takenBackWhy: null,
      },
      transaction,
    );
    const before = await store.verdicts.standings.one(
      { cellId: cell.id },
      { transaction, columns: ['cellId', 'grade'] },
    );
    changed({ what: 'gradeDecision', lotId: cell.lotId, cellIds: [cell.id] });
    await audit({
      act: 'decided a grade',
      subjectType: 'cell',
      subjectId: cell.number,
      before: { grade: before?.grade ?? null },
      after: { grade: input.grade, reason: input.reason },
    });
    return { id };
  },
});

/** Takes a decision back: the scheme says the grade again; that it was there stays visible. */
export const takeBackDecision = procedure({
  role: 'lead',
  input: decisionBack,
  run: async ({ lab, actor, input, transaction, audit, changed }): Promise<void> => {
    const { decisions } = lab.store.grading;
    const row = found(
      await decisions.one({ id: input.id }, { transaction, forUpdate: true }),
      'That decision',
    );
    if (row.takenBackAt !== null)
      throw new LabError('conflict', 'Somebody took it back already. Nothing was changed.');
    await openLot(lab, row.lotId, transaction, true);
    await decisions.update(
      {
        takenBackAt: lab.now(),
        takenBackBy: actor.id,
        takenBackWhy: input.reason,
        version: row.version + 1,
      },
      { id: row.id },
      transaction,
    );
    const cell = found(await lab.store.cells.one({ id: row.cellId }, { transaction }), 'The cell');
    changed({ what: 'gradeDecision', lotId: row.lotId, cellIds: [row.cellId] });
    await audit({
      act: 'took back a decision on a grade',
      subjectType: 'cell',
      subjectId: cell.number,
      before: { grade: row.grade, reason: row.reason },
      after: { reason: input.reason },
    });
  },
});

/** A decision as it is shown, for good. */
export interface DecisionView {
  id: number;
  grade: string;
  reason: string;
  who: string;
  at: Date;
  takenBack: { who: string; at: Date; why: string } | null;
}

/** What a person may decide of a cell’s grade, and what was decided before. */
export interface CellGrading {
  scheme: { name: string; version: number };
  /** Grades it can be given, best first: blocks stay. */
  grades: string[];
  decisions: DecisionView[];
}

async function decisionsOf(lab: Lab, cellId: number): Promise<DecisionView[]> {
  const rows = await lab.store.grading.decisions.find({ cellId }, { order: [['id', 'DESC']] });
  if (rows.length === 0) return [];
  const people = await lab.store.people.find({}, { columns: ['id', 'name'] });
  const nameOf = (id: number | null) => people.find((one) => one.id === id)?.name ?? '';
  return rows.map(({ id, grade, reason, personId, at, ...row }) => ({
    id,
    grade,
    reason,
    who: nameOf(personId),
    at,
    takenBack: row.takenBackAt && {
      who: nameOf(row.takenBackBy),
      at: row.takenBackAt,
      why: row.takenBackWhy ?? '',
    },
  }));
}

/** The scheme a cell is graded by, and decisions on it. */
export const cellGrading = question({
  role: 'technician',
  input: z.object({ cellId: z.int() }),
  run: async (lab, { cellId }): Promise<CellGrading> => {
    const cell = found(await lab.store.cells.one({ id: cellId }), 'That cell');
    const [{ model }, arrival, decisions] = await Promise.all([
      loadClaim(lab, cell.lotId),
      lab.store.arrivals.cells.one({ cellId }),
      decisionsOf(lab, cellId),
    ]);
    const scheme = await schemeFor(lab, model);
    const most = highestGrade(scheme, marksOf(arrival ?? undefined));
    return {
      scheme: { name: scheme.name, version: scheme.version },
      grades: scheme.grades.map(({ name }) => name).filter((name) => !isBetter(scheme, name, most)),
      decisions,
    };
  },
});
