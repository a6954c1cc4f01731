import { CLAIM_ITEMS, CLAIM_KINDS } from '@dusk-tally/core/arrivals';
import { lotVerdictWords, summariseItem } from '@dusk-tally/core/verdicts';
import { describe, expect, it } from 'vitest';
import { reportWords } from '../src/compute';

describe('a dispute file in German', () => {
  it('says everything a lot’s verdict can say in German', () => {
    const missed: string[] = [];
    const { say } = reportWords('de', (text) => missed.push(text));
    const item = (counts: Partial<Record<'met' | 'notMet' | 'tooClose' | 'held', number>>) =>
      summariseItem(
        Object.entries(counts).flatMap(([state, n]) =>
          Array.from({ length: n }, (_, i) => ({
            cell: `${state}${i}`,
            value: 100,
            standardUncertainty: 0.1,
            bound: 'exact' as const,
            state: state as 'met',
          })),
        ),
        { low: 99, high: null },
      );
    const capacities = [
      null,
      item({ met: 1 }),
      item({ met: 5, notMet: 1, tooClose: 2 }),
      item({ held: 1 }),
      item({ held: 3, met: 2 }),
      item({ met: 8 }),
      item({ tooClose: 8 }),
      { ...item({ met: 2, tooClose: 3 }), openBounds: 1 },
    ];
    for (const capacity of capacities)
      for (const plausible of [null, true, false])
        for (const cells of [null, 1, 8]) {
          const { headline, facts } = lotVerdictWords({
            cells: 8,
            capacity,
            resistance: { ...item({ met: 2, notMet: 1, tooClose: 1 }), openBounds: 1 },
            plausible,
            others: CLAIM_KINDS.map((kind) => ({
              words: CLAIM_ITEMS[kind].words.replace(/^[A-Z](?![A-Z])/, (letter) =>
                letter.toLowerCase(),
              ),
              cells,
            })),
          });
          for (const text of [headline, ...facts.map((fact) => fact.text)]) say(text);
        }
    expect([...new Set(missed)]).toEqual([]);
  });
});
