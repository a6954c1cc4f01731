import { describe, expect, it } from 'vitest';
import type { Actor } from '../src';
import { drawPlan, lotSample, recordReceiving } from '../src/arrivals';
import { importLog, recordReadings } from '../src/evidence';
import { today } from '../src/today';
import { failure } from '../testing/failure';
import { claimedLot } from '../testing/fresh-lab';
import { cellsOf, fresh, key, sample, technician } from '../testing/arrival-lab';

describe('sampling', () => {
  it('draws by a seed that is kept, once, and again only with a reason', async () => {
    const lot = await claimedLot(fresh, 120);
    const draw = (seed: number, reason?: string) =>
      drawPlan(fresh.lab, technician, {
        lotId: lot.id,
        plan: { method: 'attributes', level: 'II', aql: '1.5' },
        seed,
        reason,
      });
    const first = await draw(7);
    expect(first).toMatchObject({ sampleSize: 32, acceptance: 1, seed: 7 });
    expect((await failure(draw(8))).message).toMatch(/needs a reason/);
    const again = await draw(7, 'the first list was lost');
    expect(again.cellIds).toEqual(first.cellIds);
    const view = await lotSample(fresh.lab, technician, { lotId: lot.id });
    expect(view).toMatchObject({ drawnBefore: 1, outcome: 'open', short: 0, judged: 0 });
    expect(view!.words).toMatch(/Letter F, by the arrow to G: n = 32, Ac = 1, Re = 2/);
  });

  it('fails, and a lead decides with a reason', async () => {
    const lot = await claimedLot(fresh, 4, 200);
    const cells = await cellsOf(lot);
    const plan = await drawPlan(fresh.lab, technician, {
      lotId: lot.id,
      plan: { method: 'risk', goodPct: 0, producerRiskPct: 5, badPct: 40, consumerRiskPct: 30 },
      seed: 3,
    });
    for (const [i, cellId] of plan.cellIds.entries())
      await importLog(fresh.lab, technician, {
        lotId: lot.id,
        cellId,
        fileName: `${i}.csv`,
        bytes: new TextEncoder().encode(
          `${new TextDecoder().decode(sample('02-quantity-slash-unit.csv'))}${'\n'.repeat(i + 3)}`,
        ),
      });
    // 105.65 Ah against a claim of 200 Ah, carried from half its rate: all are short.
    expect(await lotSample(fresh.lab, technician, { lotId: lot.id })).toMatchObject({
      outcome: 'failed',
      judged: plan.cellIds.length,
    });
    await recordReadings(fresh.lab, technician, {
      lotId: lot.id,
      readings: cells.map((cell) => ({
        cellId: cell.id,
        kind: 'capacity' as const,
        value: 105,
        decimals: 1,
        clientKey: key(),
      })),
    });
    expect((await lotSample(fresh.lab, technician, { lotId: lot.id }))!.decision).toBeNull();
    const typed = await claimedLot(fresh, 4, 200);
    const drawn = await drawPlan(fresh.lab, technician, {
      lotId: typed.id,
      plan: { method: 'risk', goodPct: 0, producerRiskPct: 5, badPct: 40, consumerRiskPct: 30 },
      seed: 3,
    });
    await recordReadings(fresh.lab, technician, {
      lotId: typed.id,
      readings: drawn.cellIds.map((cellId) => ({
        cellId,
        kind: 'capacity' as const,
        value: 105,
        decimals: 1,
        clientKey: key(),
      })),
    });
    const failed = await lotSample(fresh.lab, technician, { lotId: typed.id });
    expect(failed).toMatchObject({ outcome: 'failed', short: drawn.sampleSize });
    expect(
      (await today(fresh.lab, technician, {})).items.some(
        (item) => item.lot?.code === typed.code && item.kind === 'sampleFailed',
      ),
    ).toBe(true);
    const decide = (who: Actor) =>
      recordReceiving(fresh.lab, who, {
        lotId: typed.id,
        clientKey: key(),
        entries: [
          {
            field: 'decision',
            value: { act: 'return', reason: 'too many short', planId: drawn.id },
          },
        ],
      });
    expect((await failure(decide(technician))).code).toBe('notAllowed');
    await decide(fresh.admin);
    expect((await lotSample(fresh.lab, technician, { lotId: typed.id }))!.decision).toMatchObject({
      act: 'return',
    });
  });

  it('says why a plan cannot be', async () => {
    const lot = await claimedLot(fresh, 10);
    const plan = (badPct: number) =>
      drawPlan(fresh.lab, technician, {
        lotId: lot.id,
        plan: { method: 'risk', goodPct: 10, producerRiskPct: 5, badPct, consumerRiskPct: 10 },
        seed: 1,
      });
    expect((await failure(plan(10))).message).toMatch(/bad share above the good one/);
    expect(
      (await failure(plan(11).then(() => drawPlan(fresh.lab, technician, {} as never)))).code,
    ).toBe('invalid');
    const empty = await claimedLot(fresh, 0);
    expect(
      (
        await failure(
          drawPlan(fresh.lab, technician, {
            lotId: empty.id,
            plan: { method: 'all' },
            seed: 1,
          }),
        )
      ).message,
    ).toMatch(/Count the cells first/);
  });
});
