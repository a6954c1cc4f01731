'use client';

import { useActionState, useEffect, useRef } from 'react';
import { Button } from '@/kit/button';
import { Problem } from '@/kit/page';
import { tellPerson } from '@/lib/person-header';
import { signInAct } from './acts';
import { Input, Label } from '@/kit/form-parts';

interface Account {
  email: string;
  name: string;
  role: string;
}

/** E-mail and password; in a demo its accounts are one press away. */
export function SignInForm({ demo }: { demo: { accounts: Account[]; password: string } | null }) {
  const [outcome, act, busy] = useActionState(signInAct, null);
  const form = useRef<HTMLFormElement>(null);
  // Whoever was here before has left: the page is nobody’s until somebody signs in.
  useEffect(() => tellPerson(0), []);
  const enter = (email: string, password: string) => {
    const fill = (name: string, text: string) => {
      const field = form.current!.elements.namedItem(name);
      if (field instanceof HTMLInputElement) field.value = text;
    };
    fill('email', email);
    fill('password', password);
    form.current!.requestSubmit();
  };
  return (
    <>
      <form ref={form} action={act} className="space-y-3">
        <Label text="E-mail">
          <Input name="email" type="email" autoComplete="username" required />
        </Label>
        <Label text="Password">
          <Input name="password" type="password" autoComplete="current-password" required />
        </Label>
        {outcome && !outcome.ok && <Problem>{outcome.message}</Problem>}
        <Button look="primary" type="submit" disabled={busy} className="w-full">
          Sign in
        </Button>
      </form>
      {demo && (
        <section className="mt-7 border-t border-rule pt-4">
          <h2 className="text-[0.87rem] text-quiet">This is the demo. Come in as</h2>
          <ul className="mt-2 space-y-1.5">
            {demo.accounts.map((account) => (
              <li key={account.email}>
                <button
                  type="button"
                  disabled={busy}
                  onClick={() => enter(account.email, demo.password)}
                  className="flex w-full min-h-10 items-baseline justify-between rounded-sm border border-rule bg-raised px-3 py-2 text-left hover:border-strong-rule"
                >
                  <span className="font-medium">{account.name}</span>
                  <span className="text-quiet">{account.role}</span>
                </button>
              </li>
            ))}
          </ul>
        </section>
      )}
    </>
  );
}
