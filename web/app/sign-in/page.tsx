import { DEMO_PASSWORD, DEMO_PEOPLE } from '@dusk-tally/lab/people';
import { redirect } from 'next/navigation';
import { Brand } from '@/features/frame/brand';
import { SignInForm } from '@/features/people/sign-in-form';
import { isDemo } from '@/lib/lab';
import { actor } from '@/lib/session';

export const dynamic = 'force-dynamic';
export const metadata = { title: 'Sign in' };

export default async function SignInPage() {
  if (await actor()) redirect('/');
  return (
    <main className="grid min-h-dvh place-items-center p-4">
      <div className="panel w-[min(400px,100%)] p-7">
        <h1 className="mb-6">
          <Brand />
        </h1>
        <SignInForm demo={isDemo() ? { accounts: DEMO_PEOPLE, password: DEMO_PASSWORD } : null} />
      </div>
    </main>
  );
}
