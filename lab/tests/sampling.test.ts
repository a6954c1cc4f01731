import { describe, expect, it } from 'vitest';
import type { Actor } from '../src';
import { drawPlan, lotSample, recordReceiving, reopenSample } from '../src/arrivals';
import { issueReport, reportPage } from '../src/reports';
import { importLog, recordReadings } from '../src/evidence';
import { today } from '../src/today';
import { failure } from '../testing/failure';
import { claimedLot } from '../testing/fresh-lab';
import { typedResult } from '../testing/typed-result';
import { cellsOf, fresh, key, sample, technician, useArrivalLab } from '../testing/arrival-lab';

useArrivalLab();

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
      readings: drawn.cellIds.flatMap((cellId) =>
        typedResult(cellId, 105, { currentA: 40, clientKey: key }),
      ),
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

  it('stops early in the order of its seed: nothing out of turn counts, too close is short, held is passed over', async () => {
    const lot = await claimedLot(fresh, 240, 100);
    const ask = { goodPct: 1, producerRiskPct: 5, badPct: 8, consumerRiskPct: 10 };
    const plan = await drawPlan(fresh.lab, technician, {
      lotId: lot.id,
      plan: { method: 'sequential', ...ask },
      seed: 11,
    });
    expect(plan).toMatchObject({ sampleSize: 43, acceptance: 1 });
    expect(plan.cellIds, 'some more, for those that are held').toHaveLength(43 + 9);
    expect(plan.cellIds).not.toEqual([...plan.cellIds].sort((a, b) => a - b));
    const type = (values: Record<number, number>) =>
      recordReadings(fresh.lab, technician, {
        lotId: lot.id,
        readings: Object.entries(values).flatMap(([i, value]) =>
          typedResult(plan.cellIds[Number(i)]!, value, { currentA: 20, clientKey: key }),
        ),
      });
    const view = async () => (await lotSample(fresh.lab, technician, { lotId: lot.id }))!;
    await type({ 1: 105, 2: 105, 5: 60 });
    expect((await view()).sequential, 'the first of the order is not tested yet').toMatchObject({
      counted: 0,
      short: 0,
      decision: 'goOn',
    });
    await type({ 0: 105 });
    const three = await view();
    expect(three.sequential).toMatchObject({ counted: 3, short: 0, decision: 'goOn' });
    expect(three.sequential!.next[0]).toBe(three.picks[3]!.number);
    // Too close to call counts as short; with the one after it and the one typed before, it fails.
    await type({ 3: 100.2, 4: 60 });
    const failed = await view();
    expect(failed.picks[3]!.state).toBe('tooClose');
    expect(failed).toMatchObject({ outcome: 'failed' });
    expect(failed.sequential!.counted).toBeLessThanOrEqual(6);
    expect(failed.short, 'too close counts, out of turn does not').toBe(failed.sequential!.short);
    const { items } = await today(fresh.lab, technician, {});
    const due = items.find(({ kind, lot: of }) => kind === 'sampleFailed' && of?.code === lot.code);
    expect(due).toMatchObject({ count: failed.sequential!.short });

    const good = await claimedLot(fresh, 240, 100);
    const again = await drawPlan(fresh.lab, technician, {
      lotId: good.id,
      plan: { method: 'sequential', ...ask },
      seed: 12,
    });
    await recordReadings(fresh.lab, technician, {
      lotId: good.id,
      readings: again.cellIds.slice(0, 43).flatMap((cellId, i) =>
        // One cell cannot hold this much: its result is held, and the next stands in its place.
        typedResult(cellId, i === 0 ? 900 : 105, { currentA: 20, clientKey: key }),
      ),
    });
    const passed = (await lotSample(fresh.lab, technician, { lotId: good.id }))!;
    expect(passed.picks[0]!.state).toBe('held');
    expect(passed).toMatchObject({ outcome: 'accepted' });
    expect(passed.sequential!.counted).toBeLessThan(43);
    expect(passed.sequential!.short).toBe(0);
  });

  it('is not tested until it passes: what cells came to first counts, until a lead opens it again', async () => {
    const lot = await claimedLot(fresh, 240, 100);
    const plan = await drawPlan(fresh.lab, technician, {
      lotId: lot.id,
      plan: {
        method: 'sequential',
        goodPct: 1,
        producerRiskPct: 5,
        badPct: 8,
        consumerRiskPct: 10,
      },
      seed: 21,
    });
    const view = async () => (await lotSample(fresh.lab, technician, { lotId: lot.id }))!;
    const type = (values: Record<number, number>) =>
      recordReadings(fresh.lab, technician, {
        lotId: lot.id,
        readings: Object.entries(values).flatMap(([i, value]) =>
          typedResult(plan.cellIds[Number(i)]!, value, { currentA: 20, clientKey: key }),
        ),
      });
    expect((await view()).doubtWords).toMatch(/measuring doubt .* is turned away in/);
    // A slip is mended before anything is decided.
    await type({ 0: 60 });
    expect((await view()).picks[0]!.state).toBe('short');
    await type({ 0: 105 });
    expect((await view()).picks[0]!.state).toBe('good');
    await type({ 1: 60, 2: 60, 3: 60 });
    const failed = await view();
    expect(failed).toMatchObject({ outcome: 'failed' });
    expect(failed.decidedAt).not.toBeNull();
    // Tested again, the same cells hold their claim: the sample stays rejected and says so.
    await type({ 1: 105, 2: 105, 3: 105 });
    const later = await view();
    expect(later.outcome).toBe('failed');
    expect(later.picks[1]).toMatchObject({ state: 'short', now: 'good' });
    const reopen = (who: Actor, reason: string) =>
      reopenSample(fresh.lab, who, { lotId: lot.id, planId: plan.id, reason });
    const why = 'All three were tested on a channel that was wired wrong.';
    expect((await failure(reopen(technician, why))).code).toBe('notAllowed');
    expect((await failure(reopen(fresh.admin, 'why'))).code).toBe('invalid');
    await reopen(fresh.admin, why);
    const again = await view();
    expect(again).toMatchObject({ outcome: 'open', decidedAt: null });
    expect(again.picks[1]).toMatchObject({ state: 'good' });
    expect(again.reopened).toMatchObject([{ reason: why, personId: fresh.admin.id }]);
    // Whoever buys from the lot reads of it.
    const { number } = await issueReport(fresh.lab, fresh.admin, {
      lotId: lot.id,
      cellIds: [plan.cellIds[0]!],
      customer: 'A buyer',
    });
    const { snapshot } = await reportPage(fresh.lab, fresh.admin, { number });
    expect(snapshot.method.join()).toMatch(
      /The sample of the lot was opened again on \d{4}-\d\d-\d\d by Ada: All three were tested/,
    );
  });
});
