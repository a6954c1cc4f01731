'use client';

import { ownPasswordInput } from '@dusk-tally/lab/inputs';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { z } from 'zod';
import { TextField } from '@/kit/form/fields';
import { Form } from '@/kit/form/form';
import { useLabForm } from '@/kit/form/use-lab-form';
import { changeOwnPasswordAct } from './acts';

/** As the act takes it, and the new one once more. */
const twice = ownPasswordInput
  .extend({ again: z.string() })
  .refine(({ next, again }) => next === again, {
    message: 'The new password stands differently here.',
    path: ['again'],
  });

const EMPTY = { current: '', next: '', again: '' };

/** Changes one’s own password; the new one is typed twice. */
export function OwnPassword({ mustChange }: { mustChange: boolean }) {
  const router = useRouter();
  const [done, setDone] = useState(false);
  const form = useLabForm({
    schema: twice,
    first: EMPTY,
    act: ({ current, next }) => changeOwnPasswordAct({ current, next }),
    done: () => {
      setDone(true);
      form.forget();
      if (mustChange) router.push('/');
    },
  });
  return (
    <Form of={form} act="Change my password">
      <TextField
        name="current"
        type="password"
        autoComplete="current-password"
        label={mustChange ? 'The password you were given' : 'Password now'}
      />
      <TextField name="next" type="password" autoComplete="new-password" label="New password" />
      <TextField
        name="again"
        type="password"
        autoComplete="new-password"
        label="New password, once more"
      />
      <p className="text-[0.85rem] text-quiet">
        At least 12 characters; a few words with blanks between will do. You are signed out
        everywhere else.
      </p>
      {done && !mustChange && <p role="status">Your password is changed.</p>}
    </Form>
  );
}
