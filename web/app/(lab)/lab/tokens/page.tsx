import { mayAct } from '@dusk-tally/lab';
import { listTokens } from '@dusk-tally/lab/bench';
import { TokenList } from '@/features/bench/token-list';
import { PageHead, Problem } from '@/kit/page';
import { Crumbs } from '@/kit/crumbs';
import { lab } from '@/lib/lab';
import { requireActor } from '@/lib/session';

export const metadata = { title: 'Tokens' };

export default async function TokensPage() {
  const who = await requireActor();
  return (
    <>
      <Crumbs way={[{ href: '/lab', name: 'Lab' }]} />
      <PageHead
        title="Tokens"
        lead={
          <>
            Programs speak with the app by a token with a scope. What they can ask is described at{' '}
            <a href="/api/v1/openapi.json" className="underline">
              /api/v1/openapi.json
            </a>
            .
          </>
        }
      />
      {mayAct(who.role, 'admin') ? (
        <TokenList tokens={await listTokens(lab(), who, {})} />
      ) : (
        <Problem>Tokens are made and revoked by an admin.</Problem>
      )}
    </>
  );
}
