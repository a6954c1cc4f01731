'use client';

import { createContext, type ReactNode, useContext, useEffect, useState } from 'react';
import { tellPerson } from '@/lib/person-header';
import { Sure } from './panel-over';

/** Who the page was made for. */
export interface PagePerson {
  id: number;
  name: string;
  /** Widths of columns, px, by table and column, as they left them. */
  widths?: Readonly<Record<string, Record<string, number>>>;
}

const Person = createContext<PagePerson>({ id: 0, name: '' });

/** Who is signed in on this browser now; null for nobody, or where that cannot be asked. */
async function personNow(): Promise<PagePerson | null> {
  try {
    const reply = (await (await fetch('/api/me')).json()) as { data?: PagePerson };
    return reply.data ?? null;
  } catch {
    return null;
  }
}

/**
 * Everything below belongs to this person: what is typed, kept and sent. Where another person has
 * signed in on this browser since, that is said, and nothing is done under the wrong name.
 */
export function PersonProvider({ person, children }: { person: PagePerson; children: ReactNode }) {
  const [own] = useState(person);
  const [asked, setAsked] = useState<PagePerson | null>(null);
  // Child effects run first and may send: the page says whose it is before anything else does.
  if (typeof window !== 'undefined') tellPerson(own.id);
  useEffect(() => {
    const look = () => {
      if (document.visibilityState === 'visible') void personNow().then(setAsked);
    };
    document.addEventListener('visibilitychange', look);
    window.addEventListener('focus', look);
    return () => {
      document.removeEventListener('visibilitychange', look);
      window.removeEventListener('focus', look);
    };
  }, []);
  const other = person.id !== own.id ? person : asked && asked.id !== own.id ? asked : null;
  return (
    <Person.Provider value={own}>
      {children}
      <Sure
        open={other !== null}
        onOpen={(open) => !open && setAsked(null)}
        title={`${other?.name ?? 'Somebody else'} has signed in on this browser`}
        says={`This page belongs to ${own.name}. Nothing more is stored from it; what ${own.name} typed and is not stored yet waits here for ${own.name}.`}
        act={`Go on as ${other?.name ?? 'the other'}`}
        onSure={() => window.location.assign('/')}
      />
    </Person.Provider>
  );
}

/** Who the page was made for; id 0 before anybody signed in. */
export const usePerson = (): PagePerson => useContext(Person);
