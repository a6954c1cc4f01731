import { randomUUID } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { entryGrid, readingsSince, recordReadings } from '../src/evidence';
import { claimedLot, type FreshLab, freshLab } from '../testing/fresh-lab';

describe('readings typed over one another', () => {
  let fresh: FreshLab;
  let lot: Awaited<ReturnType<typeof claimedLot>>;
  let cells: Awaited<ReturnType<typeof entryGrid>>;
  const grid = () => entryGrid(fresh.lab, fresh.admin, { lotId: lot.id });
  const type = async (
    cell: number,
    value: number | null,
    over: string | null | undefined,
    more: object = {},
  ) => {
    const clientKey = randomUUID();
    await recordReadings(fresh.lab, fresh.admin, {
      lotId: lot.id,
      instrumentId: null,
      readings: [
        {
          cellId: cells[cell]!.id,
          kind: 'acResistance',
          value,
          decimals: 3,
          clientKey,
          over,
          ...more,
        },
      ],
    });
    return clientKey;
  };
  const standing = async (cell: number) => (await grid())[cell]!.readings.acResistance;

  beforeAll(async () => {
    fresh = await freshLab(() => new Date('2026-10-01T08:00:00Z'));
    lot = await claimedLot(fresh, 4);
    cells = await grid();
  });
  afterAll(() => fresh.close());

  it('over what was seen: taken; over something else: refused with what stands there', async () => {
    const first = await type(0, 0.44, null);
    const second = await type(0, 0.45, first);
    await expect(type(0, 0.46, first)).rejects.toMatchObject({
      code: 'conflict',
      details: { current: { value: 0.45, clientKey: second, person: expect.any(String) } },
    });
    await expect(type(0, 0.46, null)).rejects.toThrow(/typed 0\.450 here meanwhile/);
    expect(await standing(0)).toMatchObject({ value: 0.45, clientKey: second });
  });

  it('the same value again is no other one, and who does not say what they saw is not asked', async () => {
    await type(1, 0.44, null);
    await type(1, 0.44, null);
    await type(1, 0.47, undefined);
    expect(await standing(1)).toMatchObject({ value: 0.47 });
  });

  it('taken back is as good as never typed', async () => {
    const first = await type(2, 0.44, null);
    const back = await type(2, null, first);
    expect(await standing(2)).toBeUndefined();
    await type(2, 0.45, null);
    await expect(type(2, 0.46, back)).rejects.toMatchObject({ code: 'conflict' });
  });

  it('within one batch each stands on the one before', async () => {
    const [a, b] = [randomUUID(), randomUUID()];
    const reading = (clientKey: string, value: number, over: string | null) => ({
      cellId: cells[3]!.id,
      kind: 'acResistance' as const,
      value,
      decimals: 2,
      clientKey,
      over,
    });
    const { stored } = await recordReadings(fresh.lab, fresh.admin, {
      lotId: lot.id,
      instrumentId: null,
      readings: [reading(a, 0.44, null), reading(b, 0.45, a)],
    });
    expect(stored).toBe(2);
    expect(await standing(3)).toMatchObject({ value: 0.45, clientKey: b });
  });

  it('voltages taken for something else stand elsewhere', async () => {
    const voltage = { kind: 'openCircuitVoltage' as const };
    await type(0, 3.3, null, { ...voltage, purpose: 'arrival' });
    await type(0, 3.31, null, { ...voltage, purpose: 'rest' });
    await expect(type(0, 3.32, null, { ...voltage, purpose: 'rest' })).rejects.toMatchObject({
      code: 'conflict',
    });
  });

  it('those who look on are told what came since, with who typed it', async () => {
    const { last, readings } = await readingsSince(fresh.lab, fresh.admin, {
      lotId: lot.id,
      after: null,
    });
    expect(readings).toEqual([]);
    const key = await type(1, 0.48, undefined);
    const since = await readingsSince(fresh.lab, fresh.admin, { lotId: lot.id, after: last });
    expect(since.readings).toEqual([
      expect.objectContaining({ clientKey: key, value: 0.48, person: fresh.admin.name }),
    ]);
    expect(
      (await readingsSince(fresh.lab, fresh.admin, { lotId: lot.id, after: since.last })).readings,
    ).toEqual([]);
  });
});
