import { randomUUID } from 'node:crypto';
import { describe, expect, it } from 'vitest';
import { addPersonWithPassword, signIn } from '../src/people';
import { issueReport, reportPage } from '../src/reports';
import type { Actor } from '../src/shared';
import { cellGrading, decideGrade, lotCells, takeBackDecision } from '../src/verdicts';
import { failure } from '../testing/failure';
import { claimedLot, PASSWORD } from '../testing/fresh-lab';
import { grades, save, SHIPPED, useGradesLab, withFirst } from '../testing/grades-lab';
import { fresh, ids, line, lotId } from '../testing/holds-lab';

useGradesLab();

describe('a grade by decision', () => {
  it('stands on the cell, in the books and on the report, and goes back', async () => {
    const cellId = ids[3]!;
    const was = (await line(3)).grade;
    expect(was).toBe('Second');
    await decideGrade(fresh.lab, fresh.admin, {
      cellId,
      grade: 'Utility',
      reason: 'Scratched sleeve, the buyer was told',
    });
    const decided = await line(3);
    expect(decided.grade).toBe('Utility');
    expect(decided.reasons[0]).toMatch(/^Utility by decision of .+ on \d{4}-\d\d-\d\d: Scratched/);
    expect(decided.reasons[1]).toBe('By the scheme it would be Second.');
    const { number } = await issueReport(fresh.lab, fresh.admin, {
      lotId,
      cellIds: [cellId],
      customer: 'A buyer',
    });
    const { snapshot } = await reportPage(fresh.lab, fresh.admin, { number });
    expect(snapshot.items[0]).toMatchObject({ grade: 'Utility', reasons: decided.reasons });
    expect(snapshot.gradeScheme).toMatch(/^House grades, version \d+$/);
    const again = decideGrade(fresh.lab, fresh.admin, { cellId, grade: 'First', reason: 'better' });
    expect((await failure(again)).message).toMatch(/already: Utility/);
    // Another scheme leaves it; what it would be is said anew.
    const other = withFirst([{ kind: 'stateOfHealth', limit: 0.9 }]);
    other.grades.splice(1, 1);
    await save(other);
    expect(await line(3)).toMatchObject({
      grade: 'Utility',
      reasons: [decided.reasons[0], 'By the scheme it would be First.'],
    });
    await save({ ...SHIPPED });
    const { id } = (await cellGrading(fresh.lab, fresh.admin, { cellId })).decisions[0]!;
    await takeBackDecision(fresh.lab, fresh.admin, { id, reason: 'the sleeve was replaced' });
    expect((await line(3)).grade).toBe('Second');
    const { decisions } = await cellGrading(fresh.lab, fresh.admin, { cellId });
    expect(decisions).toMatchObject([
      { grade: 'Utility', takenBack: { why: 'the sleeve was replaced' } },
    ]);
    const twice = takeBackDecision(fresh.lab, fresh.admin, { id, reason: 'once more' });
    expect((await failure(twice)).code).toBe('conflict');
  });

  it('lifts no block, and is a lead’s', async () => {
    const leaking = { cellId: ids[2]!, grade: 'First', reason: 'it looks dry' };
    const refused = await failure(decideGrade(fresh.lab, fresh.admin, leaking));
    expect(refused.message).toBe(
      'Recycle at best: leaking or wet. No scheme and no person lifts that.',
    );
    expect((await cellGrading(fresh.lab, fresh.admin, { cellId: ids[2]! })).grades).toEqual([
      'Recycle',
    ]);
    const email = `hand-${randomUUID().slice(0, 6)}@lab.example`;
    await addPersonWithPassword(fresh.lab, fresh.admin, {
      name: 'T. Hand',
      email,
      password: PASSWORD,
      role: 'technician',
    });
    const hand: Actor = await signIn(fresh.lab, { email, password: PASSWORD });
    const asHand = decideGrade(fresh.lab, hand, { ...leaking, grade: 'Recycle' });
    expect((await failure(asHand)).code).toBe('notAllowed');
    const gold = decideGrade(fresh.lab, fresh.admin, { ...leaking, grade: 'Gold' });
    expect((await failure(gold)).message).toMatch(/^Expected one of First, Second/);
  });

  it('moves no other lot', async () => {
    const lot = await claimedLot(fresh, 3);
    const other = await lotCells(fresh.lab, fresh.admin, { lotId: lot.id });
    await decideGrade(fresh.lab, fresh.admin, {
      cellId: other[0]!.id,
      grade: 'Spares',
      reason: 'a spare for the bench',
    });
    const after = await lotCells(fresh.lab, fresh.admin, { lotId: lot.id });
    expect(after.map(({ grade }) => grade)).toEqual(['Spares', null, null]);
    expect([...(await grades()).values()].filter((one) => one === 'Spares')).toHaveLength(1);
  });
});
