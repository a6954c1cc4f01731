import { mayAct } from '@dusk-tally/lab';
import { schemeScope } from '@dusk-tally/lab/inputs';
import { gradeSchemes } from '@dusk-tally/lab/verdicts';
import { notFound } from 'next/navigation';
import { scopeWords } from '@/features/verdicts/schemes/condition-words';
import { SchemeEditor } from '@/features/verdicts/schemes/scheme-editor';
import { Crumbs } from '@/kit/crumbs';
import { Empty, PageHead } from '@/kit/page';
import { lab } from '@/lib/lab';
import { requireActor } from '@/lib/session';

export const metadata = { title: 'Change grades' };

export default async function ChangeGradesPage({
  searchParams,
}: {
  searchParams: Promise<{ for?: string | string[] }>;
}) {
  const who = await requireActor();
  const { for: asked = 'house' } = await searchParams;
  const { data: scope } = schemeScope.safeParse(asked);
  if (!scope) notFound();
  const { schemes, models } = await gradeSchemes(lab(), who, {});
  if (scope.startsWith('model:') && !models.some(({ id }) => scope === `model:${id}`)) notFound();
  const own = schemes.find((scheme) => scheme.scope === scope);
  const words = scopeWords(scope, models);
  return (
    <>
      <Crumbs
        way={[
          { href: '/lab', name: 'Lab' },
          { href: '/lab/grades', name: 'Grades' },
        ]}
      />
      <PageHead
        title={`Grades for ${words}`}
        lead={
          own
            ? `A change becomes version ${own.version + 1}. Issued reports keep the version they used.`
            : 'Starts from the scheme these cells are graded by today.'
        }
      />
      {mayAct(who.role, 'lead') ? (
        <SchemeEditor
          from={own ?? schemes[0]!}
          scope={scope}
          seen={own?.version ?? 0}
          scopeWords={words}
        />
      ) : (
        <Empty title="A lead changes grades">Ask one, or look at the grades as they are.</Empty>
      )}
    </>
  );
}
