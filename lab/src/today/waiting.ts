import { z } from 'zod';
import { question, type Urgency } from '../shared';
import { headsOf, type LotHead } from '../verdicts';
import { type Due, dueItems, openLots, urgencyAt } from './due';

/** What is due, with how much it presses now. */
export interface PressingDue extends Due {
  presses: Urgency;
}

/** What waits, and the lots it waits in: those first that have the most pressing. */
export const today = question({
  role: 'technician',
  input: z.object({}),
  run: async (lab): Promise<{ items: PressingDue[]; heads: LotHead[] }> => {
    const lots = await openLots(lab);
    const [items, heads] = await Promise.all([dueItems(lab, lots), headsOf(lab, lots)]);
    const first = (code: string) => {
      const at = items.findIndex(({ lot }) => lot?.code === code);
      return at < 0 ? items.length : at;
    };
    const ranked = heads
      .map((head, i) => ({ head, i, rank: first(head.lot.code) }))
      .sort((a, b) => a.rank - b.rank || a.i - b.i);
    const now = lab.now();
    return {
      items: items.map((item) => ({ ...item, presses: urgencyAt(item, now) })),
      heads: ranked.map(({ head }) => head),
    };
  },
});
