import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { changeClaim, recordInspection } from '../src/arrivals';
import { recordReadings } from '../src/evidence';
import { lotCells, lotVerdict } from '../src/verdicts';
import { refreshStandings } from '../src/verdicts/standings';
import { claimedLot, type FreshLab, freshLab } from '../testing/fresh-lab';

/** More than are judged in one go, and not a whole number of such groups. */
const CELLS = 123;
const MEASURED = 112;

describe('where the cells of a large lot stand', () => {
  let fresh: FreshLab;
  let lotId: number;
  let code: string;
  let ids: number[];

  const tables = () => fresh.lab.store.verdicts;
  const rows = async () =>
    (await tables().standings.find({ lotId }, { order: [['cellId', 'ASC']] })).map(
      ({ updatedAt: _at, ...row }) => row,
    );
  const items = () =>
    tables().assessments.find(
      { lotId },
      {
        order: [
          ['cellId', 'ASC'],
          ['item', 'ASC'],
        ],
      },
    );
  const itemOf = async (cellId: number, item: 'capacity' | 'acResistance') =>
    (await items()).find((row) => row.cellId === cellId && row.item === item);
  const judge = (cellIds: number[] | null) =>
    fresh.lab.store.transaction((t) => refreshStandings(fresh.lab, lotId, cellIds, t));

  beforeAll(async () => {
    fresh = await freshLab();
    const lot = await claimedLot(fresh, CELLS);
    ({ id: lotId, code } = lot);
    ids = (await lotCells(fresh.lab, fresh.admin, { lotId })).map(({ id }) => id);
    const readings = ids.slice(0, MEASURED).flatMap((cellId, i) => [
      { cellId, kind: 'currentShown' as const, value: 20.8, decimals: 1 },
      {
        cellId,
        kind: 'capacity' as const,
        value: 100 + (i % 9),
        decimals: 1,
        temperatureC: 25,
      },
      ...(i % 3 === 0
        ? [{ cellId, kind: 'acResistance' as const, value: 0.45 + 0.01 * (i % 7), decimals: 3 }]
        : []),
    ]);
    await recordReadings(fresh.lab, fresh.admin, {
      lotId,
      readings: readings.map((reading, i) => ({
        ...reading,
        clientKey: `00000000-0000-4000-b000-${String(i).padStart(12, '0')}`,
      })),
    });
    await recordInspection(fresh.lab, fresh.admin, {
      lotId,
      clientKey: '00000000-0000-4000-b000-999999999999',
      marks: [
        { act: 'finding', cellIds: [ids[3]!, ids[119]!], code: 'leaking', note: null },
        { act: 'clearRest', except: [] },
      ],
    });
  });
  afterAll(() => fresh.close());

  it('is the same judged in groups and cell by cell', async () => {
    await judge(null);
    const together = await rows();
    const itemsTogether = await items();
    expect(together).toHaveLength(CELLS);
    expect(itemsTogether.filter(({ item }) => item === 'capacity')).toHaveLength(CELLS);
    await tables().standings.remove({ lotId });
    await tables().assessments.remove({ lotId });
    for (const id of [...ids].reverse()) await judge([id]);
    expect(await rows()).toEqual(together);
    expect(await items()).toEqual(itemsTogether);
  });
  it('differs between cells as their readings do; an unmeasured one waits', async () => {
    const standing = new Map((await rows()).map((row) => [row.cellId, row]));
    expect(await itemOf(ids[0]!, 'capacity')).toMatchObject({ value: 100, low: 104, high: null });
    expect(await itemOf(ids[8]!, 'capacity')).toMatchObject({ value: 108, state: 'met' });
    expect(await itemOf(ids[120]!, 'capacity')).toMatchObject({
      value: null,
      state: 'waitingFor',
      detail: { why: ['a capacity test'] },
    });
    expect(standing.get(ids[119]!)!.inputHash).not.toBe(standing.get(ids[120]!)!.inputHash);
    expect(standing.get(ids[120]!)!.inputHash).toBe(standing.get(ids[121]!)!.inputHash);
  });
  it('a batch of readings that is sent twice at once is kept once', async () => {
    const reading = {
      cellId: ids[115]!,
      kind: 'openCircuitVoltage' as const,
      value: 3.29,
      decimals: 3,
      clientKey: '00000000-0000-4000-b000-000000009999',
    };
    const send = () => recordReadings(fresh.lab, fresh.admin, { lotId, readings: [reading] });
    const kept = await Promise.all([send(), send(), send(), send()]);
    expect(kept.map(({ stored }) => stored).sort()).toEqual([0, 0, 0, 1]);
    const { clientKey } = reading;
    expect(await fresh.lab.store.readings.count({ clientKey })).toBe(1);
  });
  it('is judged anew for every cell when the claim changes, and left alone when it does not', async () => {
    const { store } = fresh.lab;
    const before = await store.verdicts.standings.find({ lotId });
    await judge(null);
    const again = await store.verdicts.standings.find({ lotId });
    expect(again.map(({ updatedAt }) => updatedAt)).toEqual(
      before.map(({ updatedAt }) => updatedAt),
    );
    await changeClaim(fresh.lab, fresh.admin, {
      lotId,
      version: (await store.lots.one({ id: lotId }))!.version,
      claim: [{ kind: 'capacity', value: 130, conditions: { rateIt: 0.2, cutoffV: 2.5 } }],
    });
    const measured = new Set(ids.slice(0, MEASURED));
    const now = (await items()).filter(({ cellId }) => measured.has(cellId));
    const states = (item: string) => [
      ...new Set(now.flatMap((row) => (row.item === item ? [row.state] : []))),
    ];
    expect(states('capacity')).toEqual(['notMet']);
    expect(states('acResistance')).toEqual(['notClaimed']);
    const verdict = await lotVerdict(fresh.lab, fresh.admin, { code });
    expect(verdict.capacity).toMatchObject({ limit: 130, n: MEASURED, notMet: MEASURED });
    expect(verdict.items.map(({ kind, claimed }) => [kind, claimed])).toContainEqual([
      'capacity',
      'at least 130 Ah',
    ]);
  });
});
