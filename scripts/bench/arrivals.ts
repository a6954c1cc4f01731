import { randomUUID } from 'node:crypto';
import { planByRisk } from '@dusk-tally/core/arrivals';
import type { Actor, Lab } from '@dusk-tally/lab';
import { addLot } from '@dusk-tally/lab/arrivals';
import { recordReadings } from '@dusk-tally/lab/evidence';
import { spread, timed } from './timing';

interface App {
  address: string;
  cookie: string;
}

/** A lot of ten thousand: how fast it opens, and how long an act on all of its cells takes. */
export async function largeLot(lab: Lab, actor: Actor, { address, cookie }: App): Promise<void> {
  const model = (await lab.store.cellModels.one({ name: 'Marl 32700' }))!;
  const supplier = (await lab.store.suppliers.one({}))!;
  const made = await timed(1, () =>
    addLot(lab, actor, {
      title: 'Ten thousand',
      supplierId: supplier.id,
      modelId: model.id,
      quantity: 10_000,
      claim: [{ kind: 'capacity', value: 6, conditions: { rateIt: 0.2, cutoffV: 2.5 } }],
    }),
  );
  const lot = (await lab.store.lots.one({ title: 'Ten thousand' }))!;
  console.log(`A lot of 10 000 cells taken in: ${spread(made)}`);
  const page = (tab: string) => async () => {
    const response = await fetch(`${address}/lots/${lot.code}/${tab}`, { headers: { cookie } });
    if (!response.ok) throw new Error(`${tab}: ${response.status}`);
    return response.text();
  };
  for (const tab of ['arrival/inspection', 'arrival/box', 'cells']) {
    await timed(2, page(tab));
    console.log(`Page of 10 000 cells, ${tab}: ${spread(await timed(7, page(tab)))}`);
  }
  const mark = (marks: object[]) => async () => {
    const response = await fetch(`${address}/api/lots/${lot.id}/inspection`, {
      method: 'POST',
      headers: { cookie, origin: address, 'Content-Type': 'application/json' },
      body: JSON.stringify({ clientKey: randomUUID(), marks }),
    });
    if (!response.ok) throw new Error(await response.text());
  };
  console.log(
    `“All are clear” on 10 000 cells, request to stored: ${spread(await timed(1, mark([{ act: 'clearRest', except: [] }])))}`,
  );
  const ids = (await lab.store.cells.find({ lotId: lot.id }, { columns: ['id'] })).map(
    (cell) => cell.id,
  );
  const codes = ['scratches', 'adhesive', 'label', 'ownersMarks', 'otherSleeve'];
  console.log(
    `A finding on 10 000 cells, request to stored: ${spread(
      await timed(codes.length, (run) =>
        mark([{ act: 'finding', cellIds: ids, code: codes[run], note: null }])(),
      ),
    )}`,
  );
  const read = (run: number) =>
    recordReadings(lab, actor, {
      lotId: lot.id,
      readings: [
        {
          cellId: ids[17 + run]!,
          kind: 'acResistance',
          value: 7 + 0.01 * run,
          decimals: 2,
          clientKey: randomUUID(),
        },
      ],
    });
  await timed(2, (run) => read(100 + run));
  console.log(
    `One reading of one cell in a lot of 10 000, act with all that depends on it: ${spread(await timed(15, read))}`,
  );
}

/** The exact plan search over lot sizes and risks. */
export async function riskPlans(): Promise<void> {
  for (const lotSize of [240, 2_000, 10_000]) {
    const requests = [
      { goodShare: 0.01, badShare: 0.03 },
      { goodShare: 0.02, badShare: 0.04 },
      { goodShare: 0.1, badShare: 0.12 },
    ].map((shares) => ({ lotSize, producerRisk: 0.05, consumerRisk: 0.05, ...shares }));
    const times = await timed(requests.length * 3, (run) => {
      planByRisk(requests[run % requests.length]!);
    });
    console.log(`Plan by risk, lot of ${lotSize}, exact: ${spread(times)}`);
  }
}
