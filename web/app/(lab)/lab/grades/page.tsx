import { mayAct } from '@dusk-tally/lab';
import { gradeSchemes } from '@dusk-tally/lab/verdicts';
import { NewScheme, SchemeHistory, SchemeList } from '@/features/verdicts/schemes/scheme-list';
import { Crumbs } from '@/kit/crumbs';
import { PageHead } from '@/kit/page';
import { lab } from '@/lib/lab';
import { requireActor } from '@/lib/session';

export const metadata = { title: 'Grades' };

export default async function GradesPage() {
  const who = await requireActor();
  const page = await gradeSchemes(lab(), who, {});
  const mayLead = mayAct(who.role, 'lead');
  return (
    <>
      <Crumbs way={[{ href: '/lab', name: 'Lab' }]} />
      <PageHead
        title="Grades"
        lead="What each grade asks for. The first one whose every condition is met wins; what it would move is shown before it is kept."
      />
      <div className="space-y-4">
        <SchemeList page={page} mayLead={mayLead} />
        {mayLead && <NewScheme page={page} />}
        <SchemeHistory page={page} />
      </div>
    </>
  );
}
