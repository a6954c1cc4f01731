'use client';

import { createContext, type ReactNode, useContext } from 'react';

/** Who the page was made for. */
export interface PagePerson {
  id: number;
  name: string;
}

const Person = createContext<PagePerson>({ id: 0, name: '' });

/** Everything below belongs to this person: what is typed, kept and sent. */
export function PersonProvider({ person, children }: { person: PagePerson; children: ReactNode }) {
  return <Person.Provider value={person}>{children}</Person.Provider>;
}

/** Who the page was made for; id 0 before anybody signed in. */
export const usePerson = (): PagePerson => useContext(Person);
