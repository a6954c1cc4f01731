'use client';

import { Moon, Sun } from 'lucide-react';
import { useTheme } from 'next-themes';
import Link from 'next/link';
import { Button } from '@/kit/button';
import { signOutAct } from './acts';

/** Who is signed in, the theme, and the way out. */
export function PersonMenu({ name, role }: { name: string; role: string }) {
  const { resolvedTheme, setTheme } = useTheme();
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
        <form action={signOutAct}>
          <Button look="bare" type="submit">
            Sign out
          </Button>
        </form>
      </div>
    </div>
  );
}
