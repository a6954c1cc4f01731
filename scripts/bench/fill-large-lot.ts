import { randomUUID } from 'node:crypto';
import { seededRandom } from '@dusk-tally/core/statistics';
import { recordReadings } from '@dusk-tally/lab/evidence';
import { lotCells } from '@dusk-tally/lab/verdicts';
import { withLab } from './with-lab';

/** Readings of one act. */
const AT_ONCE = 500;

// A capacity and a resistance for every cell of the lot of ten thousand.
await withLab(async (lab, actor) => {
  const lot = (await lab.store.lots.one({ title: 'Ten thousand' }))!;
  const cells = await lotCells(lab, actor, { lotId: lot.id });
  const random = seededRandom(10_000);
  const spread = (centre: number, share: number, decimals: number) =>
    Number((centre * (1 + share * random.normal())).toFixed(decimals));
  for (let from = 0; from < cells.length; from += AT_ONCE)
    await recordReadings(lab, actor, {
      lotId: lot.id,
      readings: cells.slice(from, from + AT_ONCE).flatMap(({ id }) => [
        {
          cellId: id,
          kind: 'capacity' as const,
          value: spread(6.1, 0.012, 3),
          decimals: 3,
          clientKey: randomUUID(),
        },
        {
          cellId: id,
          kind: 'acResistance' as const,
          value: spread(7.4, 0.03, 2),
          decimals: 2,
          clientKey: randomUUID(),
        },
      ]),
    });
});
