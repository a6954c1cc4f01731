'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { Button } from '@/kit/button';
import { Input, Label } from '@/kit/form-parts';
import { Problem } from '@/kit/page';
import { useAct } from '@/kit/use-act';
import { changeOwnPasswordAct } from './acts';

/** Changes one’s own password; the new one is typed twice. */
export function OwnPassword({ mustChange }: { mustChange: boolean }) {
  const router = useRouter();
  const { run, busy, problem, setProblem } = useAct();
  const [current, setCurrent] = useState('');
  const [next, setNext] = useState('');
  const [again, setAgain] = useState('');
  const [done, setDone] = useState(false);
  const submit = () => {
    if (next !== again) return setProblem('The new password stands differently the second time.');
    run(
      () => changeOwnPasswordAct({ current, next }),
      () => {
        setDone(true);
        setCurrent('');
        setNext('');
        setAgain('');
        if (mustChange) router.push('/');
      },
    );
  };
  const field = (
    label: string,
    value: string,
    set: (value: string) => void,
    autoComplete: string,
  ) => (
    <Label text={label}>
      <Input
        type="password"
        autoComplete={autoComplete}
        value={value}
        onChange={(event) => {
          setDone(false);
          set(event.target.value);
        }}
      />
    </Label>
  );
  return (
    <form
      className="space-y-3"
      onSubmit={(event) => {
        event.preventDefault();
        submit();
      }}
    >
      {field(
        mustChange ? 'The password you were given' : 'Password now',
        current,
        setCurrent,
        'current-password',
      )}
      {field('New password', next, setNext, 'new-password')}
      {field('New password, once more', again, setAgain, 'new-password')}
      <p className="text-[0.85rem] text-quiet">
        At least 12 characters; a few words with blanks between will do. You are signed out
        everywhere else.
      </p>
      {problem && <Problem>{problem}</Problem>}
      {done && <p role="status">Your password is changed.</p>}
      <Button look="primary" type="submit" disabled={busy}>
        Change my password
      </Button>
    </form>
  );
}
