import { z } from 'zod';
import { found, question } from '../shared';

/** What a new lab is called until somebody says otherwise. */
const UNNAMED = 'New laboratory';

/** How far a lab is set up: what its first steps are told by. */
export const labSoFar = question({
  role: 'technician',
  input: z.object({}),
  run: async (lab): Promise<{ isNamed: boolean; instruments: number; lots: number }> => {
    const [settings, instruments, lots] = await Promise.all([
      lab.store.settings.one({ id: 1 }),
      lab.store.instruments.count({}),
      lab.store.lots.count({}),
    ]);
    return {
      isNamed: found(settings, 'The lab’s settings').labName !== UNNAMED,
      instruments,
      lots,
    };
  },
});
