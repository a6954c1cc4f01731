import type { Gate } from '@dusk-tally/core/arrivals';
import { z } from 'zod';
import { arrivalOf, sampleOfLot } from '../arrivals';
import { question } from '../shared';
import { headOf, type LotHead, type Stroke } from '../verdicts';

/** What waits, for the first screen of the day. */
export interface TodayItem {
  lot: string;
  title: string;
  kind:
    | 'quarantined'
    | 'waitsForLead'
    | 'recovering'
    | 'blocked'
    | 'discard'
    | 'arrival'
    | 'ready'
    | 'noClaim'
    | 'untested'
    | 'resistance'
    | 'tooClose'
    | 'impossible'
    | 'short'
    | 'held'
    | 'sampleFailed'
    | 'notHere';
  count: number;
  of: number;
  /** Further words: what of the arrival is open. */
  note?: string;
}

/** Kinds of item from the most pressing; lots stand by the most pressing one they have. */
const URGENT: TodayItem['kind'][] = [
  'recovering',
  'quarantined',
  'waitsForLead',
  'blocked',
  'discard',
  'held',
  'sampleFailed',
  'impossible',
  'short',
  'noClaim',
  'notHere',
  'arrival',
  'ready',
  'untested',
  'tooClose',
  'resistance',
];

const STEP_WORDS = {
  box: 'box',
  packs: 'packs',
  codes: 'codes',
  inspection: 'inspection',
  readings: 'first readings',
  triage: 'triage',
  sampling: 'sampling',
} as const;

export const today = question({
  role: 'technician',
  input: z.object({}),
  run: async (lab): Promise<{ items: TodayItem[]; heads: LotHead[] }> => {
    const lots = await lab.store.lots.find({ cancelledAt: null }, { order: [['id', 'DESC']] });
    const heads = await Promise.all(lots.map((lot) => headOf(lab, lot)));
    const views = await Promise.all(
      lots.map(async (lot) => ({
        arrival: await arrivalOf(lab, lot.id),
        sample: await sampleOfLot(lab, lot.id),
      })),
    );
    const items = heads.flatMap(({ lot, claim, strokes, resistances }, i): TodayItem[] => {
      const of = strokes.length;
      const { arrival, sample } = views[i]!;
      const count = (mark: Stroke['mark'][]) =>
        strokes.filter((stroke) => mark.includes(stroke.mark)).length;
      const at = (gate: Gate) => arrival.gates.find((row) => row.gate === gate)?.count ?? 0;
      const item = (kind: TodayItem['kind'], n: number, note?: string) =>
        n > 0 ? [{ lot: lot.code, title: lot.title, kind, count: n, of, note }] : [];
      const open = arrival.steps.filter(({ state }) => state === 'open' || state === 'begun');
      const untested = count(['untested']);
      return [
        ...item('quarantined', at('quarantined')),
        ...item('waitsForLead', at('waitsForLead')),
        ...item('recovering', at('recovering')),
        ...item('blocked', at('blocked')),
        ...item('discard', at('discard')),
        ...item('held', count(['held'])),
        ...item('impossible', claim.plausibility?.possible === false ? Math.max(1, of) : 0),
        ...item('noClaim', claim.capacityAh ? 0 : Math.max(1, of)),
        ...item('notHere', of === 0 ? 1 : 0),
        ...item(
          'arrival',
          open.length,
          open.map(({ step, words }) => `${STEP_WORDS[step]} (${words})`).join(', '),
        ),
        ...item(
          'sampleFailed',
          sample?.outcome === 'failed' && !sample.decision ? sample.short : 0,
        ),
        ...item('short', count(['notMet'])),
        ...item('ready', Math.min(at('ready'), untested)),
        ...item('untested', untested - Math.min(at('ready'), untested)),
        ...item('tooClose', count(['tooClose', 'atLeast'])),
        ...item('resistance', of - resistances),
      ];
    });
    // What can hurt someone comes first, then what waits longest on a person.
    const urgency = (lot: string) =>
      Math.min(
        ...items.filter((item) => item.lot === lot).map((item) => URGENT.indexOf(item.kind)),
      );
    const ranked = heads
      .map((head, i) => ({ head, i, rank: urgency(head.lot.code) }))
      .sort((a, b) => a.rank - b.rank || a.i - b.i);
    return { items, heads: ranked.map(({ head }) => head) };
  },
});
