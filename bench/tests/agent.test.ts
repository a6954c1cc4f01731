import { appendFileSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { programOf, SHIPPED_RECIPES } from '@dusk-tally/core/bench';
import { expect, it } from 'vitest';
import { Agent, Journal, readJournal } from '../src/agent';
import { SOUND_LINE } from '../src/simulated';
import { until } from '../testing/memory-app';
import { CONDITIONS } from '../testing/small-cell';
import { alarms, app, begin, bench, folder, open, SHORT, speed } from '../testing/agent-bench';

it('runs a recipe to its end, hands everything in once, and forgets it', async () => {
  await open([{}, { capacityShare: 0.9 }]);
  const running = begin();
  await until(() => !!app.ended(1) && !!app.ended(2), 30_000, 'two runs');
  await until(() => running.runs.size === 0, 5000, 'nothing left');
  expect(app.troubles).toEqual([]);
  expect(app.ended(1)).toMatchObject({ completed: true });
  const given = (run: number) =>
    app
      .events(run)
      .flatMap((event) => (event.event === 'stepEnded' && event.step === 3 ? [event.ah] : []))[0]!;
  expect(given(2) / given(1)).toBeGreaterThan(0.86);
  expect(given(2) / given(1)).toBeLessThan(0.94);
  const measured = app.events(1).find((event) => event.event === 'measured');
  expect(measured).toMatchObject({ what: 'acResistance' });
  // Instruments are off.
  expect(bench!.places.every((place) => !place.load.on && !place.supply.on)).toBe(true);
  // The journal holds nothing that would be gone on with.
  await running.stop();
  expect(new Agent({ name: 'bench', app, folder, speed }).runs.size).toBe(0);
});

it('goes on where it was after it was stopped, and gives no number twice', async () => {
  await open([{}]);
  for (let i = 0; i < 4; i++) {
    const running = begin();
    const before = app.readings(1).length;
    await until(() => app.readings(1).length > before + 12 || !!app.ended(1), 15_000, 'readings');
    await running.stop();
  }
  begin();
  await until(() => !!app.ended(1), 30_000, 'the end');
  expect(app.troubles).toEqual([]);
  expect(app.events(1).filter(({ event }) => event === 'started')).toHaveLength(1);
  const times = app.readings(1).map(({ timeS }) => timeS);
  expect(times.every((time, i) => i === 0 || time > times[i - 1]!)).toBe(true);
});

it('takes a journal whose last line was cut short', async () => {
  await open([{}]);
  const running = begin();
  await until(() => app.readings(1).length > 10, 10_000, 'readings');
  await running.stop();
  const path = join(folder, 'journal.log');
  const whole = readJournal(path).entries.length;
  appendFileSync(path, 'deadbeef {"t":"record","record":{"run":1,"se');
  expect(readJournal(path).entries).toHaveLength(whole);
  begin();
  await until(() => app.readings(1).length > 25, 10_000, 'more readings');
  expect(app.troubles).toEqual([]);
  expect(readFileSync(path, 'utf8')).not.toContain('deadbeef');
});

it('sends again what the app did not confirm', async () => {
  await open([{}]);
  begin();
  await until(() => app.readings(1).length > 5, 10_000, 'readings');
  for (let i = 0; i < 5; i++) {
    app.loseAnswer = true;
    const n = app.readings(1).length;
    await until(() => app.readings(1).length > n + 3, 5000, 'more');
  }
  expect(app.troubles).toEqual([]);
});

it('ends the run safely when the app is out of reach for too long, and hands it in later', async () => {
  await open([{}]);
  app.silenceLimitS = 0.5;
  begin();
  await until(() => app.readings(1).length > 5, 10_000, 'readings');
  app.before = () => {
    throw new Error('connect ECONNREFUSED');
  };
  await until(
    () => !bench!.places[0]!.load.on && !bench!.places[0]!.supply.on,
    10_000,
    'instruments off',
  );
  app.before = () => undefined;
  await until(() => !!app.ended(1), 10_000, 'the end');
  expect(alarms(1)).toContain('appSilent');
  expect(app.ended(1)).toMatchObject({ completed: false });
  expect(app.troubles).toEqual([]);
});

it('stops a heater and says so', async () => {
  await open([{ heaterWPerA2: 3 }], { soc: 0.1 });
  begin();
  await until(() => !!app.ended(1), 20_000, 'the end');
  expect(alarms(1)).toEqual(['heatOnCharge']);
  expect(bench!.places[0]!.supply.on).toBe(false);
});

it('stops a discharge whose load ignores its cut-off', async () => {
  const discharge = programOf([SHORT[3]!], CONDITIONS);
  await open([{ ignoresCutoff: true }], { program: discharge, soc: 0.3 });
  begin();
  await until(() => !!app.ended(1), 20_000, 'the end');
  expect(bench!.places[0]!.load.on).toBe(false);
});

it('pauses at an instrument’s error and goes on when told to', async () => {
  await open([{}]);
  begin();
  await until(() => app.readings(1).length > 5, 10_000, 'readings');
  bench!.loads[0]!.instrument.fail(-310, 'System error');
  await until(() => alarms(1).includes('instrumentError'), 10_000, 'the alarm');
  expect(app.events(1).some(({ event }) => event === 'paused')).toBe(true);
  await until(() => !bench!.places[0]!.supply.on, 5000, 'off');
  app.commands.push({ id: 1, run: 1, kind: 'resume', value: null, by: 'Ines' });
  await until(() => app.events(1).some(({ event }) => event === 'resumed'), 5000, 'resumed');
  app.commands.push({ id: 2, run: 1, kind: 'stop', value: null, by: 'Ines' });
  await until(() => !!app.ended(1), 5000, 'the end');
  expect(app.ended(1)!.reason).toBe('Ines stopped it.');
  expect(app.troubles).toEqual([]);
});

it('tells a clock that jumped, its own or an instrument’s, and counts by the steady one', async () => {
  await open([{}, {}]);
  let movedMs = 0;
  begin({ wallMs: () => Date.now() + movedMs });
  await until(() => app.readings(1).length > 5, 10_000, 'readings');
  const jumps = (run: number) =>
    app
      .events(run)
      .flatMap((event) => (event.event === 'alarm' && event.code === 'clockJump' ? event : []));
  const sayingComputer = (run: number) =>
    jumps(run).filter(({ text }) => text.includes('bench computer'));
  movedMs = 7_200_000;
  await until(() => sayingComputer(1).length > 0, 5000, 'the alarm');
  movedMs = 0;
  await until(() => sayingComputer(1).length > 1, 5000, 'the way back');
  expect(sayingComputer(1)[0]!.text).toContain('went ahead by 7200 s');
  expect(sayingComputer(1)[1]!.text).toContain('went back by 7200 s');
  const place = bench!.places[1]!;
  place.clockOffS += 500_000;
  const ofPlace = () => jumps(2).filter(({ text }) => text.includes('The clock of Place 2 went'));
  await until(() => ofPlace().some(({ text }) => text.includes('ahead by')), 5000, 'the load’s');
  const times = app.readings(1).map(({ timeS }) => timeS);
  const gaps = times.slice(1).map((timeS, i) => timeS - times[i]!);
  // Two hours of the wall are 14 million bench seconds here; nothing near that was counted.
  expect(Math.max(...gaps)).toBeLessThan(20_000);
  expect(Math.min(...gaps)).toBeGreaterThan(0);
  expect(app.troubles).toEqual([]);
});

it('bears a bad line, and ends safely where the instrument is gone for good', async () => {
  await open([{}]);
  begin();
  await until(() => app.readings(1).length > 5, 10_000, 'readings');
  bench!.disturb({ ...SOUND_LINE, garbage: 0.04, disconnect: 0.03, foreign: 0.04 });
  const n = app.readings(1).length;
  await until(() => app.readings(1).length > n + 15, 20_000, 'readings in between');
  bench!.disturb({ ...SOUND_LINE, silent: 1 });
  await until(() => !!app.ended(1), 20_000, 'the end');
  expect(alarms(1)).toContain('noReadings');
  // As soon as it answers again it is switched off.
  bench!.disturb(SOUND_LINE);
  await until(() => !bench!.places[0]!.load.on && !bench!.places[0]!.supply.on, 10_000, 'off');
  expect(app.troubles).toEqual([]);
});

it('does not blame an instrument for a stretch in which it stood still itself', async () => {
  await open([{}]);
  const running = begin();
  await until(() => app.readings(1).length > 5, 10_000, 'readings');
  // As after a stretch without any turn: the last reading is long ago, one answer is missed.
  bench!.disturb({ ...SOUND_LINE, silent: 1 });
  running.runs.get(1)!.heardAtMs = performance.now() - 60_000;
  await until(() => running.runs.get(1)!.missed > 0, 5000, 'a missed answer');
  bench!.disturb(SOUND_LINE);
  const n = app.readings(1).length;
  await until(() => app.readings(1).length > n + 5, 10_000, 'readings again');
  expect(app.ended(1)).toBeUndefined();
  expect(alarms(1)).not.toContain('noReadings');
  expect(running.runs.get(1)!.missed).toBe(0);
});

it('ends runs safely when the disk takes no more', async () => {
  await open([{}]);
  const running = begin();
  await until(() => app.readings(1).length > 5, 10_000, 'readings');
  const journal = (running as unknown as { journal: Journal }).journal;
  journal.append = () => Promise.reject(new Error('ENOSPC: no space left on device'));
  await until(() => !!app.ended(1), 10_000, 'the end');
  expect(alarms(1)).toContain('journalFull');
  expect(app.ended(1)!.reason).toContain('no space left');
  expect(app.troubles).toEqual([]);
});

it('drops a run the app wants no more of', async () => {
  await open([{}]);
  const running = begin();
  await until(() => app.readings(1).length > 5, 10_000, 'readings');
  app.drops.push({ run: 1, reason: 'Another agent has the channel.' });
  await until(() => running.runs.size === 0, 10_000, 'nothing left');
  expect(bench!.places[0]!.supply.on).toBe(false);
});

it('writes its journal anew without losing its place', async () => {
  await open([{}]);
  const running = begin();
  await until(() => app.readings(1).length > 20, 10_000, 'readings');
  const journal = (running as unknown as { journal: Journal }).journal;
  await until(() => !(running.runs.get(1)?.busy ?? true), 5000, 'a quiet moment');
  journal.compact([...running.runs.values()].map((run) => run.snapshot()));
  const n = app.readings(1).length;
  await until(() => app.readings(1).length > n + 5, 10_000, 'more');
  await running.stop();
  begin();
  await until(() => !!app.ended(1), 30_000, 'the end');
  expect(app.troubles).toEqual([]);
});

it('the shipped claim check, at 2 000 times its pace', async () => {
  await open([{}, {}, {}, {}], { program: programOf(SHIPPED_RECIPES[0]!.steps, CONDITIONS) });
  begin();
  await until(() => [1, 2, 3, 4].every((run) => app.ended(run)), 60_000, 'four runs');
  for (const run of [1, 2, 3, 4]) {
    expect(alarms(run)).toEqual([]);
    expect(app.ended(run)).toMatchObject({ completed: true });
  }
  expect(app.troubles).toEqual([]);
});
