import type { Chemistry } from '@dusk-tally/core/chemistry';
import { SHIPPED_SCHEME } from '@dusk-tally/core/verdicts';
import type { GradeSchemeRow, NewRow, Transaction } from '@dusk-tally/store';
import { schemeEnd, schemeInput } from '../../inputs';
import { type Act, type Change, found, type Lab, LabError, procedure } from '../../shared';
import { keepPrices, renamedGrades } from './renamed-grades';
import { newestSchemes } from './schemes';

/** Lots a scope reaches. */
function reachOf(scope: string): Omit<Change, 'what'> {
  const [kind, which] = scope.split(':');
  if (kind === 'model') return { modelId: Number(which) };
  return kind === 'chemistry' ? { chemistry: which as Chemistry } : {};
}

/** A scheme as its form types it. */
const typedScheme = ({ name, body }: GradeSchemeRow) => ({
  name,
  grades: body.grades.map((grade) => ({ ...grade, note: grade.note ?? '' })),
  atBest: body.atBest,
  tooCloseIsEnough: body.tooCloseIsEnough,
});

/** The newest row of a scope, that nobody else is to have changed since it was seen. */
async function seenRow(
  lab: Lab,
  { scope, seen }: { scope: string; seen: number },
  transaction: Transaction,
): Promise<GradeSchemeRow | undefined> {
  if (scope.startsWith('model:'))
    found(
      await lab.store.cellModels.one({ id: Number(scope.slice(6)) }, { transaction }),
      'That cell model',
    );
  // Locks the lab’s settings, so that versions are given one after the other.
  await lab.store.settings.one({ id: 1 }, { transaction, forUpdate: true });
  const row = (await newestSchemes(lab, transaction, [scope])).get(scope);
  const ships = scope === 'house' ? SHIPPED_SCHEME.version : 0;
  const standing = row && !row.ended ? row.schemeVersion : row ? 0 : ships;
  if (standing !== seen)
    throw new LabError(
      'conflict',
      'Somebody changed this scheme meanwhile. Nothing was stored; what they made of it is here now.',
      { current: { seen: standing, ...(row && !row.ended ? { scheme: typedScheme(row) } : {}) } },
    );
  return row;
}

const nextVersion = (scope: string, row: GradeSchemeRow | undefined): number =>
  (row?.schemeVersion ?? (scope === 'house' ? SHIPPED_SCHEME.version : 0)) + 1;

/** The next version of a scope’s scheme, stored. */
async function storeVersion(
  { lab, actor, transaction }: Pick<Act<unknown, unknown>, 'lab' | 'actor' | 'transaction'>,
  before: GradeSchemeRow | undefined,
  said: Pick<GradeSchemeRow, 'scope' | 'name' | 'body' | 'ended' | 'reason'>,
): Promise<NewRow<GradeSchemeRow>> {
  const row: NewRow<GradeSchemeRow> = {
    ...said,
    schemeVersion: nextVersion(said.scope, before),
    personId: actor.id,
    at: lab.now(),
  };
  await lab.store.grading.schemes.insert(row, transaction);
  return row;
}

/** Keeps a new version of a scheme; every cell it reaches is graded anew. Issued reports keep theirs. */
export const saveScheme = procedure({
  role: 'lead',
  input: schemeInput,
  run: async (act): Promise<{ version: number }> => {
    const { lab, input, transaction, audit, changed } = act;
    const { scope, reason } = input;
    const { name, ...body } = input.scheme;
    const before = await seenRow(lab, input, transaction);
    if (
      before &&
      !before.ended &&
      JSON.stringify([before.name, before.body]) === JSON.stringify([name, body])
    )
      throw new LabError('invalid', 'Nothing is different from the version there is.');
    const after = await storeVersion(act, before, { scope, name, body, ended: false, reason });
    const stood = before && !before.ended ? before.body : scope === 'house' ? SHIPPED_SCHEME : null;
    if (stood) await keepPrices(lab, scope, renamedGrades(stood.grades, body.grades), transaction);
    changed({ what: 'gradeScheme', ...reachOf(scope) });
    await audit({
      act: 'kept a scheme of grades',
      subjectType: 'lab',
      subjectId: 'grades',
      before: before ?? null,
      after,
    });
    return { version: after.schemeVersion };
  },
});

/** Ends the scheme of a chemistry or a model: its cells are graded by the wider one again. */
export const endScheme = procedure({
  role: 'lead',
  input: schemeEnd,
  run: async (act): Promise<void> => {
    const { lab, input, transaction, audit, changed } = act;
    const { scope, reason } = input;
    if (scope === 'house')
      throw new LabError(
        'invalid',
        'The house scheme holds for all that have no other; change it.',
      );
    const before = found(await seenRow(lab, input, transaction), 'That scheme');
    const { name, body } = before;
    await storeVersion(act, before, { scope, name, body, ended: true, reason });
    changed({ what: 'gradeScheme', ...reachOf(scope) });
    await audit({
      act: 'ended a scheme of grades',
      subjectType: 'lab',
      subjectId: 'grades',
      before,
      after: { scope, reason },
    });
  },
});
