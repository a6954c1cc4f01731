import type { listPeople } from '@dusk-tally/lab/people';
import { Table } from '@/kit/table';
import { PersonActs, PersonForm } from './person-form';

/** Who may sign in, as what. */
export function PeopleList({
  people,
  own,
}: {
  people: Awaited<ReturnType<typeof listPeople>>;
  /** Number of who looks. */
  own: number;
}) {
  return (
    <section className="panel p-4">
      <h2 className="font-semibold">People</h2>
      <Table>
        <thead>
          <tr>
            <th>Name</th>
            <th>E-mail</th>
            <th>Role</th>
            <th>
              <span className="sr-only">What can be done</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {people.map((person) => (
            <tr key={person.id} className={person.active ? '' : 'text-quiet'}>
              <td>{person.name}</td>
              <td>{person.email}</td>
              <td>
                {person.role}
                {!person.active && ', shut out'}
              </td>
              <td className="text-right">{person.id !== own && <PersonActs person={person} />}</td>
            </tr>
          ))}
        </tbody>
      </Table>
      <PersonForm />
    </section>
  );
}
