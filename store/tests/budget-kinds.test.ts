import { recordDischarge, rowsAsCsv, typicalCell } from '@dusk-tally/core/simulator';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { importLog, recordReadings } from '../../lab/src/evidence';
import { lotCells } from '../../lab/src/verdicts';
import { claimedLot, type FreshLab, freshLab } from '../../lab/testing/fresh-lab';
import { openConnection, parseDatabaseUrl } from '../src';
import { up, withKinds } from '../src/migrations/008-budget-kinds';

describe('stored budgets say what their components are', () => {
  let fresh: FreshLab;
  beforeAll(async () => {
    fresh = await freshLab();
  });
  afterAll(() => fresh.close());

  it('as today’s figures do, after their kinds were taken out', async () => {
    const { lab, admin } = fresh;
    const { store } = lab;
    const lot = await claimedLot(fresh, 1);
    const [cell] = await lotCells(lab, admin, { lotId: lot.id });
    const rows = recordDischarge(typicalCell('LFP', 104), {
      currentA: 41.6,
      cutoffV: 2.5,
      intervalS: 30,
      restBeforeS: 600,
      restAfterS: 60,
      ambientC: 21,
      seed: 3,
    });
    await importLog(lab, admin, {
      lotId: lot.id,
      cellId: cell!.id,
      fileName: 'at another rate.csv',
      bytes: new TextEncoder().encode(rowsAsCsv(rows)),
    });
    await recordReadings(lab, admin, {
      lotId: lot.id,
      readings: [
        {
          cellId: cell!.id,
          kind: 'acResistance',
          value: 0.41,
          decimals: 2,
          clientKey: '00000000-0000-4000-9000-00000000000a',
        },
      ],
    });
    const before = await store.figures.find({}, { order: [['id', 'ASC']] });
    const kinds = new Set(before.flatMap(({ detail }) => detail.budget.map(({ kind }) => kind)));
    expect([...kinds]).toEqual(expect.arrayContaining(['currentGain', 'rate', 'gain']));
    for (const { id, detail } of before)
      await store.figures.update(
        {
          detail: {
            ...detail,
            budget: detail.budget.map(({ kind: _kind, ...part }) => part) as typeof detail.budget,
          },
        },
        { id },
      );
    const connection = openConnection(parseDatabaseUrl(fresh.url));
    await up(connection.getQueryInterface());
    await connection.close();
    expect(await store.figures.find({}, { order: [['id', 'ASC']] })).toEqual(before);
    const stale = await store.verdicts.standings.count({ inputHash: '' });
    expect(stale).toBe(1);
  });

  it('both ends of a window are of one kind, and what nobody wrote is refused', () => {
    const part = (name: string) => ({ name, standardUncertainty: 1, basis: '' });
    const budget = [part('cut-off voltage'), part('cut-off voltage, upper end')];
    const now = JSON.parse(withKinds(JSON.stringify({ budget }))!) as {
      budget: { kind: string; name: string }[];
    };
    expect(now.budget.map(({ kind }) => kind)).toEqual(['cutoffVoltage', 'cutoffVoltage']);
    expect(now.budget[1]!.name).toBe('cut-off voltage, upper end');
    expect(withKinds(JSON.stringify(now))).toBeNull();
    expect(() => withKinds(JSON.stringify({ budget: [part('moonlight')] }))).toThrow(/“moonlight”/);
  });
});
