'use client';

import { Moon, Sun } from 'lucide-react';
import { useTheme } from 'next-themes';
import { Link } from '@/kit/link';
import { useRef, useState } from 'react';
import { Button } from '@/kit/button';
import { Sure } from '@/kit/panel-over';
import { useHeld } from '@/lib/use-held';
import { signOutAct } from './acts';

/** Who is signed in, the theme, and the way out. */
export function PersonMenu({ name, role }: { name: string; role: string }) {
  const { resolvedTheme, setTheme } = useTheme();
  const waiting = useHeld().reduce((sum, { count }) => sum + count, 0);
  const [asking, setAsking] = useState(false);
  const form = useRef<HTMLFormElement>(null);
  const next = resolvedTheme === 'dark' ? 'light' : 'dark';
  return (
    <div className="text-[0.87rem]">
      <Link href="/account" className="block rounded-sm px-3 py-1 hover:bg-wash">
        <span className="block font-medium">{name}</span>
        <span className="block text-quiet">{role}, my account</span>
      </Link>
      <div className="mt-2 flex gap-1">
        <Button
          look="bare"
          onClick={() => setTheme(next)}
          aria-label="Change between the dusk and the paper theme"
          title="Dusk or paper"
        >
          <Sun size={16} className="hidden dark:block" aria-hidden />
          <Moon size={16} className="dark:hidden" aria-hidden />
        </Button>
        <form ref={form} action={signOutAct}>
          <Button
            look="bare"
            type={waiting > 0 ? 'button' : 'submit'}
            onClick={() => waiting > 0 && setAsking(true)}
          >
            Sign out
          </Button>
        </form>
        <Sure
          open={asking}
          onOpen={setAsking}
          title="Not everything is stored yet"
          says={`${waiting} ${waiting === 1 ? 'entry waits' : 'entries wait'} in this browser for ${name}. They stay here, nobody else sees them, and they are sent when ${name} comes back to that page.`}
          act="Sign out all the same"
          onSure={() => form.current?.requestSubmit()}
        />
      </div>
    </div>
  );
}
