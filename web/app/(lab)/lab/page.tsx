import { historyOf, mayAct } from '@dusk-tally/lab';
import { listInstruments } from '@dusk-tally/lab/evidence';
import { labDay } from '@dusk-tally/lab/lots';
import { listPeople } from '@dusk-tally/lab/people';
import { holdLimits } from '@dusk-tally/lab/verdicts';
import { InstrumentList } from '@/features/evidence/instrument-list';
import { PeopleList } from '@/features/people/people-list';
import { HoldLimitsForm, HoldLimitsList } from '@/features/verdicts/hold-limits-form';
import { ButtonLink } from '@/kit/button';
import { History } from '@/kit/history';
import { PageHead } from '@/kit/page';
import { lab } from '@/lib/lab';
import { requireActor } from '@/lib/session';

export const metadata = { title: 'Lab' };

export default async function LabPage() {
  const who = await requireActor();
  const mayLead = mayAct(who.role, 'lead');
  const [instruments, limits, limitsHistory, people, today] = await Promise.all([
    listInstruments(lab(), who, {}),
    holdLimits(lab(), who, {}),
    historyOf(lab(), who, { subjectType: 'lab', subjectId: 'holds' }),
    who.role === 'admin' ? listPeople(lab(), who, {}) : null,
    labDay(lab()),
  ]);
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
  return (
    <>
      <PageHead title="Lab" lead="Instruments, limits of holds and the people who may act.">
        <ButtonLink href="/lab/channels">Channels and meters</ButtonLink>
        <ButtonLink href="/lab/grades">Grades</ButtonLink>
        <ButtonLink href="/lab/models">Cell models</ButtonLink>
        <ButtonLink href="/lab/chemistry">Chemistry profiles</ButtonLink>
        <ButtonLink href="/lab/codes">Codes and makers</ButtonLink>
        {who.role === 'admin' && <ButtonLink href="/lab/tokens">Tokens</ButtonLink>}
        {who.role === 'admin' && <ButtonLink href="/lab/settings">Settings</ButtonLink>}
      </PageHead>
      <div className="space-y-5">
        <InstrumentList
          instruments={instruments}
          histories={histories}
          today={today}
          mayLead={mayLead}
        />
        <section id="holds" className="panel p-4">
          <h2 className="font-semibold">Limits of holds</h2>
          <p className="mb-2 text-quiet">
            Beyond them a result is kept and shown, and counts nowhere until a lead has looked.
          </p>
          {mayLead ? (
            <HoldLimitsForm key={limits.version} limits={limits} />
          ) : (
            <HoldLimitsList limits={limits} />
          )}
          <History entries={limitsHistory} />
        </section>
        {people && <PeopleList people={people} own={who.id} />}
      </div>
    </>
  );
}
