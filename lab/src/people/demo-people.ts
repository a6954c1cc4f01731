import type { Role } from '@dusk-tally/store';

/** Password of all demo accounts; offered on the sign-in page in demo mode only. */
export const DEMO_PASSWORD = 'tally-at-dusk';

export const DEMO_PEOPLE: { email: string; name: string; role: Exclude<Role, 'system'> }[] = [
  { email: 'admin@fennick.example', name: 'Odile Marrack', role: 'admin' },
  { email: 'lead@fennick.example', name: 'Ines Tregarth', role: 'lead' },
  { email: 'technician@fennick.example', name: 'Tobin Sayle', role: 'technician' },
];
