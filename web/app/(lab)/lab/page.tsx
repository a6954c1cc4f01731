import { labDay } from '@dusk-tally/lab/lots';
import { SHIPPED_SCHEME } from '@dusk-tally/core/verdicts';
import type { Accuracy } from '@dusk-tally/core/evidence';
import { historyOf, mayAct } from '@dusk-tally/lab';
import { listInstruments } from '@dusk-tally/lab/evidence';
import { listPeople } from '@dusk-tally/lab/people';
import { holdLimits } from '@dusk-tally/lab/verdicts';
import { ChangeInstrument } from '@/features/evidence/change-instrument';
import { InstrumentForm } from '@/features/evidence/instrument-form';
import { HoldLimitsForm } from '@/features/verdicts/hold-limits-form';
import { PersonActs, PersonForm } from '@/features/people/person-form';
import { ButtonLink } from '@/kit/button';
import { PageHead } from '@/kit/page';
import { lab } from '@/lib/lab';
import { requireActor } from '@/lib/session';
import { Table } from '@/kit/table';

export const metadata = { title: 'Lab' };

const KIND_WORDS = {
  tester: 'Tester',
  acMeter: 'AC resistance meter',
  voltmeter: 'Voltmeter',
  scale: 'Scale',
  caliper: 'Caliper',
};

const OFFSET_UNIT = { tester: '', acMeter: 'mΩ', voltmeter: 'V', scale: 'g', caliper: 'mm' };

function accuracyWords(kind: keyof typeof KIND_WORDS, accuracy: unknown): string {
  if (kind === 'tester') {
    const a = accuracy as Accuracy;
    return `current ± (${a.currentGainPct} % + ${a.currentOffsetA * 1000} mA), voltage ± (${a.voltageGainPct} % + ${a.voltageOffsetV * 1000} mV)`;
  }
  const a = accuracy as { gainPct: number; offset: number };
  return `± (${a.gainPct} % + ${kind === 'voltmeter' ? `${a.offset * 1000} mV` : `${a.offset} ${OFFSET_UNIT[kind]}`})`;
}

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

export default async function LabPage() {
  const who = await requireActor();
  const instruments = await listInstruments(lab(), who, {});
  const histories = new Map(
    await Promise.all(
      instruments.map(
        async ({ id }) =>
          [
            id,
            await historyOf(lab(), who, { subjectType: 'instrument', subjectId: String(id) }),
          ] as const,
      ),
    ),
  );
  const limits = await holdLimits(lab(), who, {});
  const people = who.role === 'admin' ? await listPeople(lab(), who, {}) : null;
  const today = await labDay(lab());
  return (
    <>
      <PageHead title="Lab" lead="Instruments, the grade scheme and the people who may act.">
        <ButtonLink href="/lab/channels">Channels and meters</ButtonLink>
        <ButtonLink href="/lab/models">Cell models</ButtonLink>
        <ButtonLink href="/lab/chemistry">Chemistry profiles</ButtonLink>
        <ButtonLink href="/lab/codes">Codes and makers</ButtonLink>
        {who.role === 'admin' && <ButtonLink href="/lab/tokens">Tokens</ButtonLink>}
        {who.role === 'admin' && <ButtonLink href="/lab/settings">Settings</ButtonLink>}
      </PageHead>
      <div className="space-y-5">
        <section className="panel p-4">
          <h2 className="font-semibold">Instruments</h2>
          {instruments.length === 0 && (
            <p className="text-quiet">
              None yet. Results of an instrument not described get the house default accuracy, which
              is wide.
            </p>
          )}
          {instruments.length > 0 && (
            <Table>
              <thead>
                <tr>
                  <th>Name</th>
                  <th>Kind</th>
                  <th>Accuracy</th>
                  <th>Calibrated</th>
                  <th>Due</th>
                  <th>
                    <span className="sr-only">Change</span>
                  </th>
                </tr>
              </thead>
              <tbody>
                {instruments.map((row) => (
                  <tr key={row.id}>
                    <td>
                      {row.name}
                      {row.serial && (
                        <span className="block text-[0.82rem] text-quiet">{row.serial}</span>
                      )}
                    </td>
                    <td>{KIND_WORDS[row.kind]}</td>
                    <td>{accuracyWords(row.kind, row.accuracy)}</td>
                    <td className="whitespace-nowrap">{row.calibratedOn ?? '–'}</td>
                    <td className="whitespace-nowrap">
                      {row.dueOn ?? '–'}
                      {row.dueOn && row.dueOn < today && (
                        <span className="ml-1 text-missed">overdue</span>
                      )}
                    </td>
                    <td className="text-right">
                      {mayAct(who.role, 'lead') && (
                        <ChangeInstrument
                          key={row.version}
                          instrument={row}
                          history={histories.get(row.id) ?? []}
                        />
                      )}
                    </td>
                  </tr>
                ))}
              </tbody>
            </Table>
          )}
          {mayAct(who.role, 'lead') && <InstrumentForm />}
        </section>
        <section className="panel p-4">
          <h2 className="font-semibold">
            {SHIPPED_SCHEME.name}, version {SHIPPED_SCHEME.version}
          </h2>
          <p className="mb-1 text-quiet">
            The first grade whose every condition is met wins. Too close to call counts as not met
            for the better grade.
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
        <section className="panel p-4">
          <h2 className="font-semibold">Limits of holds</h2>
          <p className="mb-2 text-quiet">
            Beyond them a result is kept and shown, and counts nowhere until a lead has looked.
          </p>
          <HoldLimitsForm
            key={JSON.stringify(limits)}
            limits={limits}
            mayLead={mayAct(who.role, 'lead')}
          />
        </section>
        {people && (
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
                    <td className="text-right">
                      {person.id !== who.id && <PersonActs person={person} />}
                    </td>
                  </tr>
                ))}
              </tbody>
            </Table>
            <PersonForm />
          </section>
        )}
      </div>
    </>
  );
}
