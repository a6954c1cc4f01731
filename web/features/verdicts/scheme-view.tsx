import { SHIPPED_SCHEME } from '@dusk-tally/core/verdicts';
import { Table } from '@/kit/table';

function conditionWords(
  condition: (typeof SHIPPED_SCHEME.grades)[number]['conditions'][number],
): string {
  if (condition.kind === 'stateOfHealth') return `SoH at least ${100 * condition.atLeast} %`;
  if (condition.kind === 'acResistanceShare')
    return `AC resistance at most ${(100 * condition.atMost).toFixed(0)} % of claim`;
  return condition.kind === 'losesNoCharge'
    ? 'loses no charge at rest'
    : 'no inspection finding above note';
}

/** The grades cells are given, best first, and what each asks for. */
export function SchemeView() {
  return (
    <section className="panel p-4">
      <h2 className="font-semibold">
        {SHIPPED_SCHEME.name}, version {SHIPPED_SCHEME.version}
      </h2>
      <p className="mb-1 text-quiet">
        The first grade whose every condition is met wins. Too close to call counts as not met for
        the better grade.
      </p>
      <Table>
        <tbody>
          {SHIPPED_SCHEME.grades.map((grade) => (
            <tr key={grade.name}>
              <th scope="row">{grade.name}</th>
              <td>
                {grade.conditions.map(conditionWords).join('; ') || 'whatever is left'}
                {grade.note && `; ${grade.note}`}
              </td>
            </tr>
          ))}
        </tbody>
      </Table>
    </section>
  );
}
