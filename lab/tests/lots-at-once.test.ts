import { openConnection, parseDatabaseUrl, QueryTypes } from '@dusk-tally/store';
import { describe, expect, it } from 'vitest';
import {
  arrivalsOf,
  drawPlan,
  lotArrival,
  lotSample,
  recordReceiving,
  sampleStandings,
} from '../src/arrivals';
import { loadClaim, loadClaims } from '../src/lots';
import { dueCounts, dueItems, openLots, today } from '../src/today';
import { lotHead, lotList } from '../src/verdicts';
import { claimedLot } from '../testing/fresh-lab';
import {
  cellsOf,
  fresh,
  inspect,
  key,
  technician,
  useArrivalLab,
  volts,
} from '../testing/arrival-lab';

useArrivalLab();

/** Three lots at different places of their arrival: nothing done, half done, sampled. */
async function threeLots() {
  const untouched = await claimedLot(fresh, 3);
  const begun = await claimedLot(fresh, 5, 90);
  const [first, second, third] = await cellsOf(begun);
  await recordReceiving(fresh.lab, technician, {
    lotId: begun.id,
    clientKey: key(),
    entries: [
      { field: 'netG', value: 9500 },
      { field: 'skip:codes', value: true },
    ],
  });
  await inspect(begun, [
    { act: 'clear', cellIds: [first!.id] },
    { act: 'finding', cellIds: [second!.id], code: 'leaking', note: null },
  ]);
  await volts(begun, [
    [first!.id, 3.301],
    [third!.id, 1.2],
  ]);
  const sampled = await claimedLot(fresh, 60, 80);
  await drawPlan(fresh.lab, technician, {
    lotId: sampled.id,
    plan: { method: 'attributes', level: 'II', aql: '1.5' },
    seed: 5,
  });
  return [untouched, begun, sampled] as const;
}

/** Questions the database is asked meanwhile; nobody else asks it. */
async function asked(work: () => Promise<unknown>): Promise<number> {
  const server = openConnection(parseDatabaseUrl(fresh.url));
  const so = async () => {
    const [row] = await server.query<{ Value: string }>("SHOW GLOBAL STATUS LIKE 'Com_select'", {
      type: QueryTypes.SELECT,
    });
    return Number(row!.Value);
  };
  try {
    const before = await so();
    await work();
    return (await so()) - before;
  } finally {
    await server.close();
  }
}

describe('what is asked of all lots at once', () => {
  it('is what is asked of each alone: arrival, sample and claim', async () => {
    const made = await threeLots();
    const lots = await openLots(fresh.lab);
    const ids = lots.map(({ id }) => id);
    expect(ids).toEqual(expect.arrayContaining(made.map(({ id }) => id)));
    const [arrivals, samples, claims] = await Promise.all([
      arrivalsOf(fresh.lab, lots),
      sampleStandings(fresh.lab, ids),
      loadClaims(fresh.lab, lots),
    ]);
    for (const lotId of ids) {
      expect(arrivals.get(lotId)).toEqual(await lotArrival(fresh.lab, technician, { lotId }));
      expect(claims.get(lotId)).toEqual(await loadClaim(fresh.lab, lotId));
      const alone = await lotSample(fresh.lab, technician, { lotId });
      const among = samples.get(lotId);
      expect(among?.outcome).toEqual(alone?.outcome);
      expect(among?.picks.map(({ number, state }) => [number, state])).toEqual(
        alone?.picks.map(({ number, state }) => [number, state]),
      );
    }
  });

  it('tells each lot its own', async () => {
    const [untouched, begun, sampled] = await threeLots();
    const list = await lotList(fresh.lab, technician, {});
    const at = (lotId: number) => {
      const { arrival } = list.find(({ lot }) => lot.id === lotId)!;
      return {
        cells: arrival.cells,
        gates: arrival.gates,
        ...Object.fromEntries(arrival.steps.map(({ step, words }) => [step, words])),
      };
    };
    expect(at(untouched.id)).toMatchObject({
      cells: 3,
      gates: [{ gate: 'open', count: 3 }],
      box: 'not counted, not weighed',
      codes: '0 of 3 with a code',
      inspection: '0 of 3 inspected',
      sampling: 'not drawn',
    });
    expect(at(begun.id)).toMatchObject({
      cells: 5,
      box: 'not counted, weighed',
      codes: 'left out; 0 of 5 with a code',
      inspection: '2 of 5 inspected',
      readings: '2 of 5 with a first voltage',
    });
    expect(at(begun.id).gates).toContainEqual({ gate: 'quarantined', count: 1 });
    expect(at(sampled.id)).toMatchObject({ cells: 60, sampling: 'drawn' });
    const due = (await dueItems(fresh.lab, await openLots(fresh.lab))).filter(
      ({ lot }) => lot?.code === begun.code,
    );
    expect(due.find(({ kind }) => kind === 'quarantined')).toMatchObject({ count: 1, of: 5 });
  });

  it('the head of a lot in a list is the one on its own page', async () => {
    for (const { arrival: _arrival, ...head } of await lotList(fresh.lab, technician, {}))
      expect(head).toEqual(await lotHead(fresh.lab, technician, { code: head.lot.code }));
  });

  it('asks the database as often for many lots as for few', async () => {
    const counts = async () => [
      await asked(() => dueCounts(fresh.lab, technician, {})),
      await asked(() => today(fresh.lab, technician, {})),
      await asked(() => lotList(fresh.lab, technician, {})),
    ];
    await threeLots();
    const few = await counts();
    for (let i = 0; i < 2; i++) await threeLots();
    expect(await counts()).toEqual(few);
    expect(Math.max(...few)).toBeLessThan(60);
  });
});
