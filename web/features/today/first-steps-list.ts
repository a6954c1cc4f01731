import type { Actor } from '@dusk-tally/lab';

type Role = Actor['role'];

/** What an empty lab begins with. */
export interface FirstStep {
  key: 'name' | 'instruments' | 'lot';
  title: string;
  says: string;
  /** Words on what leads there. */
  act: string;
  href: string;
  isDone: boolean;
}

/** What the steps are told by. */
export interface LabSoFar {
  isNamed: boolean;
  instruments: number;
  lots: number;
}

/** The first steps of an empty lab, those a role may take, in the order they are of use. */
export function firstSteps(lab: LabSoFar, role: Role): FirstStep[] {
  const steps: (FirstStep & { from: Role[] })[] = [
    {
      key: 'name',
      title: 'Say what the lab is called',
      says: 'Name, place and address stand on every report; currency and time zone hold for all lots.',
      act: 'To the settings',
      href: '/lab/settings',
      isDone: lab.isNamed,
      from: ['admin'],
    },
    {
      key: 'instruments',
      title: 'Describe what you measure with',
      says: 'A tester, a resistance meter, a voltmeter: what their data sheets state. Without it results get the wide accuracy of a meter not described.',
      act: 'To the instruments',
      href: '/lab',
      isDone: lab.instruments > 0,
      from: ['lead', 'admin'],
    },
    {
      key: 'lot',
      title: 'Take in the first lot',
      says: 'Supplier and cell model are described on the way: where it is from, how many cells, what was claimed for them.',
      act: 'Take it in',
      href: '/arrivals/new',
      isDone: lab.lots > 0,
      from: ['lead', 'admin'],
    },
  ];
  return steps.filter(({ from }) => from.includes(role)).map(({ from: _from, ...step }) => step);
}

/** The step that comes next: the first that is neither done nor skipped; null where none is left. */
export const nextStep = (
  steps: readonly FirstStep[],
  skipped: readonly string[],
): FirstStep | null => steps.find(({ key, isDone }) => !isDone && !skipped.includes(key)) ?? null;
