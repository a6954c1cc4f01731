import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { type Actor, closeLab, openLab } from '@dusk-tally/lab';
import { lotCells, lotVerdict } from '@dusk-tally/lab/verdicts';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { keptSecret, runTypeScript, startApp } from '../lib/app.mjs';
import { startBench } from '../lib/bench.mjs';
import { ensureBuild } from '../lib/build.mjs';
import { freePort, startDatabase } from '../lib/database.mjs';
import { WORKER_FILE } from '../lib/paths.mjs';
import { stop } from '../lib/run.mjs';

/** Bench time against wall time: a recipe of a day passes in minutes. */
const SPEED = 300;
const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

/** What every lot and cell says. */
interface Picture {
  sentences: Record<string, string>;
  cells: Record<string, { verdict: string | null; ah: number | null; held: string | null }>;
}

describe('the demo, stopped and started in the middle of its runs', () => {
  const home = mkdtempSync(join(tmpdir(), 'dusk-story-'));
  /** A database that holds the demo already, where one was made for this story; else one of its own. */
  const given = process.env.DUSK_STORY_DATABASE;
  let database: Awaited<ReturnType<typeof startDatabase>> | null = null;
  let env: Record<string, string>;
  let running: { app: { child: unknown }; bench: { stop: () => Promise<void> } } | null = null;

  /** What `npm run demo` starts beside its database. */
  async function start(): Promise<void> {
    const app = await startApp({ port: await freePort(), env, quiet: true });
    const bench = await startBench({
      env,
      home: join(home, 'bench'),
      address: app.address,
      speed: SPEED,
      quiet: true,
    });
    running = { app, bench };
  }
  async function halt(): Promise<void> {
    const now = running;
    running = null;
    await now?.bench.stop();
    await stop(now?.app.child);
  }
  /** One lab beside the app’s, for all questions: it asks the same database. */
  let lab: ReturnType<typeof openLab> | null = null;
  let who: Actor;
  const withLab = <T>(work: (lab: ReturnType<typeof openLab>, who: Actor) => Promise<T>) =>
    work(lab!, who);
  const picture = () =>
    withLab(async (lab, who): Promise<Picture> => {
      const found: Picture = { sentences: {}, cells: {} };
      for (const { id, code } of await lab.store.lots.find({})) {
        found.sentences[code] = (await lotVerdict(lab, who, { code })).sentence;
        for (const line of await lotCells(lab, who, { lotId: id }))
          found.cells[line.number] = {
            verdict: line.verdict,
            ah: line.capacityAh,
            held: line.held,
          };
      }
      return found;
    });
  /** Runs of the driven bench; those read by hand wait for somebody to read them. */
  const runs = () =>
    withLab((lab) => lab.store.bench.runs.find({ driven: true }, { order: [['id', 'ASC']] }));
  const untilAll = async (
    is: (found: Awaited<ReturnType<typeof runs>>) => boolean,
    forMs: number,
  ) => {
    const until = Date.now() + forMs;
    while (Date.now() < until) {
      if (is(await runs())) return;
      await pause(1500);
    }
    throw new Error(
      `Not so after ${forMs / 1000} s: ${JSON.stringify(await runs()).slice(0, 400)}`,
    );
  };
  /** Seven runs are in their discharge: the load has counted something, and goes on. */
  const discharging = (given: number) =>
    withLab(async (lab) => {
      const lives = await lab.store.bench.live.find({});
      return lives.length >= 7 && lives.every((live) => live.givenAh > given);
    });
  const untilDischarging = async (given: number) => {
    for (let i = 0; i < 200 && !(await discharging(given)); i++) await pause(1000);
    expect(await discharging(given)).toBe(true);
  };

  beforeAll(async () => {
    await ensureBuild();
    if (!given) database = await startDatabase(home, { forTests: true });
    const databaseUrl = given ?? database!.url();
    env = {
      DUSK_DATABASE_URL: databaseUrl,
      DUSK_SESSION_SECRET: keptSecret(join(home, 'secret')),
      DUSK_DEMO: '1',
    };
    if (!given) await runTypeScript('scripts/load-demo.ts', env);
    lab = openLab({ databaseUrl, workerFile: WORKER_FILE });
    const person = (await lab.store.people.one({ role: 'admin' }))!;
    who = { id: person.id, name: person.name, role: 'admin' };
  }, 600_000);
  afterAll(async () => {
    await halt();
    if (lab) await closeLab(lab);
    await database?.stop();
    rmSync(home, { recursive: true, force: true });
  });

  it('leaves every lot’s verdict as it was, and gives no cell what it cannot hold', async () => {
    const before = await picture();
    await start();
    // Ctrl-C while all discharge, and again after: 10 000 s and 18 000 s of bench time.
    for (const [given, awayS] of [
      [0.5, 10_000],
      [2, 18_000],
    ] as const) {
      await untilDischarging(given);
      await halt();
      await pause((awayS * 1000) / SPEED);
      await start();
    }
    await untilAll(
      (all) => all.length >= 7 && all.every(({ state }) => state === 'stored'),
      420_000,
    );
    const after = await picture();
    const driven = new Map(
      await withLab(async (lab) => {
        const cells = await lab.store.cells.find({
          id: (await runs()).map(({ cellId }) => cellId),
        });
        return cells.map(({ number }): [string, true] => [number, true]);
      }),
    );
    expect(driven.size).toBeGreaterThanOrEqual(7);
    for (const [number, was] of Object.entries(before.cells)) {
      const is = after.cells[number]!;
      if (!driven.has(number)) {
        expect({ number, verdict: is.verdict, held: is.held }).toEqual({
          number,
          verdict: was.verdict,
          held: was.held,
        });
        if (was.ah !== null) expect(Math.abs(is.ah! / was.ah - 1)).toBeLessThan(0.005);
        continue;
      }
      // A sound cell that ran again: about what it had, never what stood still counted as charge.
      expect(is.ah! / was.ah!).toBeGreaterThan(0.9);
      expect(is.ah! / was.ah!).toBeLessThan(1.05);
    }
    for (const [code, sentence] of Object.entries(before.sentences))
      if (code !== 'L-001') expect(after.sentences[code]).toBe(sentence);
    // Where the driven cells are the lot says of them what it said before, too.
    const counts = (found: Picture) =>
      Object.values(found.cells).filter(({ verdict }) => verdict === 'notMet').length;
    expect(counts(after)).toBe(counts(before));
    const exact = await withLab(async (lab) => {
      const stored = (await runs()).flatMap(({ runId }) => runId ?? []);
      return lab.store.figures.find(
        { runId: stored, quantity: 'capacity' },
        { columns: ['id', 'runId', 'value', 'bound'] },
      );
    });
    const said = await withLab(async (lab) => {
      const stored = await lab.store.runs.find({ id: exact.flatMap(({ runId }) => runId ?? []) });
      return stored.flatMap(({ summary }) => summary.findings.map(({ text }) => text));
    });
    // The load’s own counter carries each run across: nothing is left out for the time away.
    expect(exact.length).toBeGreaterThanOrEqual(7);
    expect(said.filter((text) => text.includes('nothing is counted there'))).toEqual([]);
    // At this pace a reading comes every few minutes, so the end itself may be only a bound.
    const whole = exact.filter(({ value }) => value > 5.7 && value < 6.6);
    expect(whole.length, JSON.stringify(exact)).toBeGreaterThanOrEqual(6);
  }, 1_200_000);
});
