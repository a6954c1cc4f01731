import { Link } from '@/kit/link';
import { redirect } from 'next/navigation';
import { Brand } from '@/features/frame/brand';
import { signOutAct } from '@/features/people/acts';
import { OwnPassword } from '@/features/people/own-password';
import { Button } from '@/kit/button';
import { accountActor } from '@/lib/session';

export const dynamic = 'force-dynamic';
export const metadata = { title: 'My account' };

/** One’s own account; the only page for whoever must change a password first. */
export default async function AccountPage() {
  const who = await accountActor();
  if (!who) redirect('/sign-in');
  return (
    <main className="grid min-h-dvh place-items-center p-4">
      <div className="panel w-[min(420px,100%)] p-7">
        <div className="mb-6 flex items-center justify-between">
          <Brand />
          {who.passwordIsOnce ? (
            <form action={signOutAct}>
              <Button look="bare" type="submit">
                Sign out
              </Button>
            </form>
          ) : (
            <Link href="/" className="underline">
              Back to Today
            </Link>
          )}
        </div>
        <h1 className="text-xl font-semibold">{who.name}</h1>
        <p className="mb-4 text-quiet">
          {who.passwordIsOnce
            ? 'Your password was made for this one sign-in. Choose your own before you go on.'
            : who.role}
        </p>
        <OwnPassword mustChange={who.passwordIsOnce} />
      </div>
    </main>
  );
}
