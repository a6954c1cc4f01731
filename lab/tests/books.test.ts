import { randomUUID } from 'node:crypto';
import { describe, expect, it } from 'vitest';
import { recordReadings } from '../src/evidence';
import { keepBooks, lotBooks } from '../src/money';
import { setAside } from '../src/verdicts';
import { fresh, useClaimsLab } from '../testing/claims-lab';
import { failure } from '../testing/failure';
import { paidLot } from '../testing/paid-lot';
import { claimedLot } from '../testing/fresh-lab';

useClaimsLab();

const books = (lotId: number) => lotBooks(fresh.lab, fresh.admin, { lotId });
const keep = (lotId: number, version: number, more: object = {}) =>
  keepBooks(fresh.lab, fresh.admin, {
    lotId,
    version,
    linePct: 80,
    gradePrices: { First: 40, Second: 35.5 },
    ...more,
  });

describe('the books of a lot', () => {
  it('add up to the cent: parts, shares of the cells, what they bring', async () => {
    const { lot, cells } = await paidLot(fresh);
    await recordReadings(fresh.lab, fresh.admin, {
      lotId: lot.id,
      readings: cells.map(({ id }) => ({
        cellId: id,
        kind: 'acResistance' as const,
        value: 0.43,
        decimals: 2,
        clientKey: randomUUID(),
      })),
    });
    await keep(lot.id, 0, { minutes: 30, perMinute: 0.75 });
    const told = await books(lot.id);
    expect(told.totalCents).toBe(9005 + 1005 + 2250);
    expect(told.parts.reduce((sum, { cents }) => sum + cents, 0)).toBe(told.totalCents);
    expect(told.lines.reduce((sum, { costCents }) => sum + costCents, 0)).toBe(told.totalCents);
    expect(told.resaleCents, 'both Second: they did not rest yet').toBe(7100);
    expect(told.resaleCents).toBe(
      told.lines.reduce((sum, { bringsCents }) => sum + (bringsCents ?? 0), 0),
    );
    expect(told.marginCents).toBe(7100 - told.totalCents);
    expect(told.units).toMatchObject({ cells: 4, tested: 2, good: 2 });
    expect(told.energy).toMatchObject({ measured: 2, computed: 0 });
    expect(told.ungraded).toBe(2);
    expect(told.centsPerClaimedAh).toBeCloseTo(9005 / 4 / 104, 9);
    expect(told.shortfall).toMatchObject({ cells: 0, cents: 0 });
    expect(told.remedies!.breakEvenCents).toBe(9005 - 7100);
    await keep(lot.id, 1, { gradePrices: { Utility: 20 } });
    expect(await books(lot.id)).toMatchObject({ resaleCents: null, remedies: null });
  });

  it('know nothing of a lot nobody paid for or tested, and say so', async () => {
    const lot = await claimedLot(fresh, 3);
    const told = await books(lot.id);
    expect(told).toMatchObject({
      hasPrice: false,
      totalCents: 0,
      shortfall: null,
      resaleCents: 0,
      marginCents: null,
      remedies: null,
      ungraded: 3,
    });
    expect(told.units).toMatchObject({ tested: 0, perKwhTestedCents: null });
    expect(told.kept.version).toBe(0);
  });

  it('are kept by one person at a time, in whole cents, and refuse what is no amount', async () => {
    const { lot } = await paidLot(fresh);
    await keep(lot.id, 0, { returnFreight: 12.1, packingMinutes: 20, partialRefund: 5.005 });
    expect(await failure(keep(lot.id, 0))).toMatchObject({ code: 'conflict' });
    const { kept } = await books(lot.id);
    expect(kept).toMatchObject({ returnFreightCents: 1210, packingMinutes: 20, version: 1 });
    expect(Number.isInteger(kept.partialRefundCents)).toBe(true);
    for (const wrong of [{ minutes: -1 }, { linePct: 0 }, { gradePrices: { First: -3 } }])
      expect(await failure(keep(lot.id, 1, wrong))).toMatchObject({ code: 'invalid' });
    await keep(lot.id, 1, { gradePrices: {} });
    expect((await books(lot.id)).kept).toMatchObject({ gradePrices: {}, version: 2 });
  });

  it('leave out what is held, by name', async () => {
    const { lot, cells } = await paidLot(fresh);
    const before = await books(lot.id);
    const run = (await fresh.lab.store.runs.one({ cellId: cells[0]!.id }))!;
    await setAside(fresh.lab, fresh.admin, {
      runId: run.id,
      readingId: null,
      reason: 'a lead came loose',
    });
    const after = await books(lot.id);
    expect(after.units.tested).toBe(before.units.tested - 1);
    expect(after.lines[0]).toMatchObject({ wh: null, capacityAh: null });
  });
});
