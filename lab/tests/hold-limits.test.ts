import type { HoldLimits } from '@dusk-tally/core/verdicts';
import { expect, it } from 'vitest';
import { historyOf } from '../src/shared';
import { changeHoldLimits, holdLimits, previewHoldLimits, setAside } from '../src/verdicts';
import { failure } from '../testing/failure';
import { fresh, line, logOf, take, useHoldsLab } from '../testing/holds-lab';
import { setHoldLimits } from '../testing/limits';

useHoldsLab();

it('limits are the lab’s own; what no longer holds is free again, as was said before', async () => {
  await take(11, logOf(106, 60, { counterFactor: 1.03 }));
  const now = await holdLimits(fresh.lab, fresh.admin, {});
  const ask = async (limits: Partial<HoldLimits>) => {
    const { version: _, ...fields } = { ...now, ...limits };
    return previewHoldLimits(fresh.lab, fresh.admin, fields);
  };
  const cell = (await line(11)).number;
  expect(await ask({})).toMatchObject({ held: [], freed: [] });
  const wider = await ask({ countsApart: 0.05 });
  expect(wider.held).toEqual([]);
  expect(wider.freed).toEqual([
    { cell, lot: expect.any(String), rule: 'twoCounts', text: expect.stringContaining('counter') },
  ]);
  expect((await line(11)).held, 'asking changes nothing').not.toBeNull();

  await setHoldLimits(fresh, { countsApart: 0.05 });
  expect((await line(11)).held).toBeNull();
  const back = await ask({ countsApart: 0.02 });
  expect(back.held.map((one) => [one.cell, one.rule])).toEqual([[cell, 'twoCounts']]);
  expect(back.freed).toEqual([]);
  await setHoldLimits(fresh, { countsApart: 0.02 });
  expect((await line(11)).held).not.toBeNull();
});

it('a result that a person set aside, too, is not said to count again by other limits', async () => {
  const runId = await take(13, logOf(106, 62, { counterFactor: 1.03 }));
  const number = (await line(13)).number;
  const { version: _, ...now } = await holdLimits(fresh.lab, fresh.admin, {});
  const freed = async () =>
    (await previewHoldLimits(fresh.lab, fresh.admin, { ...now, countsApart: 0.05 })).freed.map(
      ({ cell }) => cell,
    );
  expect(await freed()).toContain(number);
  await setAside(fresh.lab, fresh.admin, { runId, readingId: null, reason: 'a spoilt test' });
  expect(await freed()).not.toContain(number);
});

it('a change of limits keeps its reason and history, and meets nobody else’s by surprise', async () => {
  const before = await holdLimits(fresh.lab, fresh.admin, {});
  const change = (more: object) =>
    changeHoldLimits(fresh.lab, fresh.admin, { ...before, reason: 'a stricter house', ...more });
  expect((await failure(change({}))).message).toMatch(/Nothing is different/);
  expect((await failure(change({ clocksApart: 2 }))).message).toMatch(/Expected 0.05 to 50 %/);
  expect((await failure(change({ reason: '' }))).message).toMatch(/Say why/);
  await change({ clocksApart: 0.02 });
  expect(await failure(change({ clocksApart: 0.03 }))).toMatchObject({ code: 'conflict' });
  const [last] = await historyOf(fresh.lab, fresh.admin, {
    subjectType: 'lab',
    subjectId: 'holds',
  });
  expect(last).toMatchObject({
    person: fresh.admin.name,
    reason: 'a stricter house',
    changes: [{ name: 'clocksApart', before: 0.01, after: 0.02 }],
  });
  await setHoldLimits(fresh, { clocksApart: 0.01 });
});
