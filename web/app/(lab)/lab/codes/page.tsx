import { mayAct } from '@dusk-tally/lab';
import { codeRules } from '@dusk-tally/lab/arrivals';
import { CodeRulesView } from '@/features/arrivals/code-rules-view';
import { PageHead } from '@/kit/page';
import { Crumbs } from '@/kit/crumbs';
import { lab } from '@/lib/lab';
import { requireActor } from '@/lib/session';

export const metadata = { title: 'Codes and makers' };

export default async function CodesPage() {
  const who = await requireActor();
  return (
    <>
      <Crumbs way={[{ href: '/lab', name: 'Lab' }]} />
      <PageHead
        title="Codes and makers"
        lead="How the codes printed on cells are read, and whose they are."
      />
      <CodeRulesView rules={await codeRules(lab(), who, {})} mayChange={mayAct(who.role, 'lead')} />
    </>
  );
}
