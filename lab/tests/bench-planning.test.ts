import { describe, expect, it } from 'vitest';
import {
  addJobs,
  cancelJobs,
  changeBenchSettings,
  changeJob,
  checkPlace,
  listRecipes,
  moveJob,
  planAll,
  planBoard,
  retiredRecipes,
  retireRecipe,
  saveRecipe,
  setChannelLimits,
  stopPlanning,
  takeUpRecipe,
} from '../src/bench';
import { closeLab } from '../src';
import { addModel, changeClaim } from '../src/arrivals';
import { dueCalendar } from '../src/today';
import { ABLE } from '../testing/bench-lab';
import { failure } from '../testing/failure';
import { anotherProcess } from '../testing/fresh-lab';
import {
  cells,
  channels,
  clock,
  fresh,
  lab,
  lotId,
  recipe,
  technician,
  usePlanningLab,
} from '../testing/planning-lab';

usePlanningLab();

describe('planning', () => {
  it('says that no channel can charge until somebody wrote down that one can', async () => {
    const { id } = await recipe('Claim check');
    const { added } = await addJobs(lab(), technician, {
      lotId,
      cellIds: cells.slice(0, 8).map((cell) => cell.id),
      recipeId: id,
      dueOn: '2026-03-10',
    });
    expect(added).toBe(8);
    const again = await addJobs(lab(), technician, {
      lotId,
      cellIds: [cells[0]!.id],
      recipeId: id,
    });
    expect(again).toEqual({ added: 0, skipped: [cells[0]!.number] });
    expect((await planBoard(lab(), technician, {})).jobs[0]!.problem).toContain('No channel');
    for (const channelId of channels)
      await setChannelLimits(lab(), fresh.admin, { channelId, limits: ABLE, wiring: null });
    expect(
      (
        await failure(
          setChannelLimits(lab(), fresh.admin, {
            channelId: channels[0]!,
            version: 0,
            limits: ABLE,
            wiring: null,
          }),
        )
      ).code,
    ).toBe('conflict');
    expect((await planBoard(lab(), technician, {})).jobs[0]!.problem).toBeNull();
  });
  it('plans all that waits, first charges in attended hours, and writes a calendar', async () => {
    const summary = await planAll(lab(), technician, { seed: 3 });
    expect(summary.impossible).toEqual([]);
    const board = await planBoard(lab(), technician, {});
    expect(board.jobs.every(({ state, parts }) => state === 'planned' && parts.length === 1)).toBe(
      true,
    );
    for (const { parts, firstCharge } of board.jobs) {
      expect(firstCharge).toBe(true);
      const hour = new Date(parts[0]!.from).getUTCHours();
      expect(hour).toBeGreaterThanOrEqual(8);
      expect(hour).toBeLessThan(18);
    }
    expect((await planBoard(lab(), technician, {})).settings.planSummary).toEqual(summary);
    const calendar = await dueCalendar(lab(), technician, {});
    expect(calendar.match(/SUMMARY:Connect and watch/g)).toHaveLength(8);
    expect(calendar.replace(/\r\n /g, '')).toContain(`Connect and watch ${cells[0]!.number}`);
  });
  it('checks a place before it is taken, and keeps what was put by hand', async () => {
    const { jobs } = await planBoard(lab(), technician, {});
    const job = jobs[0]!;
    const place = (from: string) => ({
      jobId: job.id,
      part: 0,
      channelId: job.parts[0]!.channelId,
      from: new Date(from),
    });
    expect(
      (await checkPlace(lab(), technician, place('2026-03-04T23:00:00Z'))).reasons.join(),
    ).toContain('Nobody is there');
    expect(
      (
        await failure(
          moveJob(lab(), technician, { ...place('2026-03-04T23:00:00Z'), version: job.version }),
        )
      ).message,
    ).toContain('does not fit');
    expect((await checkPlace(lab(), technician, place('2026-03-12T09:00:00Z'))).reasons).toEqual(
      [],
    );
    await moveJob(lab(), technician, { ...place('2026-03-12T09:00:00Z'), version: job.version });
    expect(
      (
        await failure(
          moveJob(lab(), technician, { ...place('2026-03-13T09:00:00Z'), version: job.version }),
        )
      ).code,
    ).toBe('conflict');
    await planAll(lab(), technician, { seed: 4 });
    const after = (await planBoard(lab(), technician, {})).jobs.find(({ id }) => id === job.id)!;
    expect(after.pinned).toBe(true);
    expect(after.parts[0]!.from).toBe('2026-03-12T09:00:00.000Z');
  });
  it('two people who plan at once leave one plan', async () => {
    await Promise.all([
      planAll(lab(), technician, { seed: 5 }),
      planAll(lab(), fresh.admin, { seed: 6 }),
    ]);
    const { jobs } = await planBoard(lab(), technician, {});
    const taken = jobs
      .flatMap(({ parts }) => parts)
      .sort((a, b) => a.channelId - b.channelId || a.from.localeCompare(b.from));
    taken.forEach((part, i) => {
      const after = taken[i + 1];
      if (after?.channelId === part.channelId) expect(after.from >= part.to).toBe(true);
    });
  });
  it('takes the best plan so far when it is told to, by another process too', async () => {
    const other = anotherProcess(fresh.url, () => clock);
    const planning = planAll(lab(), technician, { seed: 7 });
    let stopped = 0;
    for (let i = 0; i < 200 && stopped === 0; i++) {
      stopped = await stopPlanning(other, technician, {});
      await new Promise((resolve) => setTimeout(resolve, 1));
    }
    expect(stopped).toBe(1);
    const summary = await planning;
    // At least one order was tried, and not one more channel was thought about.
    expect(summary.tried).toBeGreaterThan(0);
    expect(summary.oneMore).toBeNull();
    const { jobs } = await planBoard(lab(), technician, {});
    expect(jobs.every(({ parts }) => parts.length === 1)).toBe(true);
    expect(await stopPlanning(lab(), technician, {})).toBe(0);
    await closeLab(other);
  });
  it('hours are kept with their version', async () => {
    const { settings } = await planBoard(lab(), technician, {});
    const hours = {
      attendedFromMin: 480,
      attendedToMin: 1080,
      attendedDays: [1, 2, 3, 4, 5],
      silenceLimitS: 60,
    };
    await changeBenchSettings(lab(), fresh.admin, { ...hours, version: settings.version });
    expect(
      (
        await failure(
          changeBenchSettings(lab(), fresh.admin, { ...hours, version: settings.version }),
        )
      ).code,
    ).toBe('conflict');
    expect(
      (
        await failure(
          changeBenchSettings(lab(), fresh.admin, {
            ...hours,
            attendedToMin: 400,
            version: settings.version + 1,
          }),
        )
      ).message,
    ).toContain('begin before');
  });
});

it('a recipe that jobs wait for is not retired', async () => {
  const { id } = await recipe('Claim check');
  expect((await failure(retireRecipe(lab(), fresh.admin, { id }))).code).toBe('conflict');
  const own = { name: 'Short lived', purpose: 'own' as const, attendedOnly: false };
  const steps = (await recipe('Claim check')).steps;
  const saved = await saveRecipe(lab(), fresh.admin, { ...own, steps });
  await retireRecipe(lab(), fresh.admin, { id: saved.id });
  expect((await listRecipes(lab(), fresh.admin, {})).map(({ name }) => name)).not.toContain(
    'Short lived',
  );
});

it('what is due and pressing is changed while it waits, by whoever saw it last', async () => {
  const jobs = async () => (await planBoard(lab(), technician, {})).jobs;
  const [job] = await jobs();
  const { id, version } = job!;
  await changeJob(lab(), technician, { id, version, dueOn: '2026-04-01', priority: 3 });
  const after = (await jobs()).find((one) => one.id === id)!;
  expect(after).toMatchObject({ dueOn: '2026-04-01', priority: 3, version: version + 1 });
  expect({ ...after, dueOn: null, priority: 0, version: 0 }).toEqual({
    ...job!,
    dueOn: null,
    priority: 0,
    version: 0,
  });
  expect(
    (await failure(changeJob(lab(), technician, { id, version, dueOn: null, priority: 1 }))).code,
  ).toBe('conflict');
  expect((await jobs()).find((one) => one.id === id)).toEqual(after);
  await changeJob(lab(), technician, { id, version: version + 1, dueOn: null, priority: 1 });
  await cancelJobs(lab(), technician, { ids: [id] });
  expect(
    (
      await failure(
        changeJob(lab(), technician, { id, version: version + 3, dueOn: null, priority: 1 }),
      )
    ).message,
  ).toContain('cancelled; only one that waits can be changed');
});

it('a recipe off the list is neither changed nor used, and is taken up again as it was', async () => {
  const steps = (await recipe('Claim check')).steps;
  const own = { name: 'On and off', purpose: 'own' as const, attendedOnly: false, steps };
  const { id } = await saveRecipe(lab(), fresh.admin, own);
  const before = (await listRecipes(lab(), fresh.admin, {})).find((one) => one.id === id)!;
  await retireRecipe(lab(), fresh.admin, { id });
  expect(await retiredRecipes(lab(), technician, {})).toContainEqual(
    expect.objectContaining({ id, name: 'On and off' }),
  );
  for (const act of [
    () => retireRecipe(lab(), fresh.admin, { id }),
    () => saveRecipe(lab(), fresh.admin, { ...own, id, rowVersion: before.rowVersion + 1 }),
  ])
    expect((await failure(act())).message).toBe(
      '“On and off” is off the list. Take it up again first.',
    );
  expect((await failure(saveRecipe(lab(), fresh.admin, own))).message).toBe(
    'A recipe named On and off is here already, off the list: it can be taken up again.',
  );
  const cellIds = [cells[0]!.id];
  expect((await failure(addJobs(lab(), technician, { lotId, cellIds, recipeId: id }))).code).toBe(
    'notFound',
  );
  expect((await failure(takeUpRecipe(lab(), technician, { id }))).code).toBe('notAllowed');
  await takeUpRecipe(lab(), fresh.admin, { id });
  expect((await failure(takeUpRecipe(lab(), fresh.admin, { id }))).code).toBe('conflict');
  const after = (await listRecipes(lab(), fresh.admin, {})).find((one) => one.id === id)!;
  expect({ ...after, rowVersion: 0 }).toEqual({ ...before, rowVersion: 0 });
  expect(await retiredRecipes(lab(), technician, {})).toEqual(
    expect.not.arrayContaining([expect.objectContaining({ id })]),
  );
});

it('a lot without a capacity says so before anything is planned', async () => {
  const model = await addModel(lab(), fresh.admin, {
    name: 'Unknown',
    chemistry: 'LFP',
    format: 'prism',
  });
  const lot = await lab().store.lots.one({ id: lotId });
  await lab().store.lots.update({ modelId: model.id }, { id: lotId });
  await changeClaim(lab(), fresh.admin, {
    lotId,
    version: (await lab().store.lots.one({ id: lotId }))!.version,
    claim: [],
  });
  expect(
    (
      await failure(
        addJobs(lab(), technician, {
          lotId,
          cellIds: [cells[9]!.id],
          recipeId: (await recipe('Claim check')).id,
        }),
      )
    ).message,
  ).toContain('claims no capacity');
  expect(lot).not.toBeNull();
});
