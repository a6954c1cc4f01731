import { seededRandom } from '@dusk-tally/core/statistics';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { importLog } from '../../lab/src/evidence';
import { type BenchLab, benchLab } from '../../lab/testing/bench-lab';
import { type BenchRecordRow, driverOf, type Store } from '../src';

describe('tables of runs and traces', () => {
  let { fresh, lotId, cells, technician } = {} as BenchLab;
  let store: Store;
  const runs: number[] = [];
  const now = new Date('2026-03-04T09:00:00Z');

  beforeAll(async () => {
    ({ fresh, lotId, cells, technician } = await benchLab(() => now));
    store = fresh.lab.store;
    const version = (await store.bench.recipeVersions.find({}))[0]!;
    for (const cell of cells.slice(0, 3)) {
      const row = await store.bench.runs.insert({
        jobId: null,
        cellId: cell.id,
        lotId,
        channelId: null,
        recipeVersionId: version.id,
        program: [{ kind: 'rest', seconds: 60 }],
        limits: { highV: 3.65, lowV: 2.5, ambientC: 22, intervalS: 1 },
        startList: [],
        driven: true,
        state: 'running',
        agent: 'bench',
        speed: 1,
        chemistry: 'LFP',
        expectedAh: 6,
        startSoc: 0.5,
        counterAh: 0,
        ambientC: 22,
        clamping: null,
        startedAt: now,
        endedAt: null,
        endReason: null,
        completed: null,
        runId: null,
        personId: technician.id,
        createdAt: now,
      });
      runs.push(row.id);
    }
    const record = (benchRunId: number, seq: number): BenchRecordRow => ({
      benchRunId,
      seq,
      timeS: seq,
      step: 0,
      voltageV: 3.3,
      currentA: 0,
      temperatureC: null,
      counterAh: null,
      event: seq % 50 === 7 ? { event: 'step', step: 0 } : null,
    });
    for (const run of runs)
      await store.bench.records.insertMany(
        Array.from({ length: 430 }, (_, i) => record(run, i + 1)) as never,
      );
  });
  afterAll(() => fresh.close());

  it('more rows than one statement takes are all written', async () => {
    expect(await store.bench.records.count({ benchRunId: runs[0]! })).toBe(430);
  });
  it('gives what is behind each reader’s place, run by run, in order', async () => {
    const behind = await store.bench.recordsSince(
      new Map([
        [runs[0]!, 425],
        [runs[1]!, 430],
        [runs[2]!, 428],
      ]),
      1000,
    );
    expect(behind.map(({ benchRunId, seq }) => [benchRunId, seq])).toEqual([
      ...[426, 427, 428, 429, 430].map((seq) => [runs[0], seq]),
      ...[429, 430].map((seq) => [runs[2], seq]),
    ]);
    expect(await store.bench.recordsSince(new Map(), 10)).toEqual([]);
    const few = await store.bench.recordsSince(new Map([[runs[0]!, 0]]), 8);
    expect(few.map(({ seq }) => seq)).toEqual([1, 2, 3, 4, 5, 6, 7, 8]);
    expect(few[6]!.event).toEqual({ event: 'step', step: 0 });
    expect(few[5]!.event).toBeNull();
  });
  it('a thinned run keeps all that happened', async () => {
    const thin = await store.bench.thinned(runs[1]!, 40);
    expect(thin.filter(({ event }) => event !== null)).toHaveLength(9);
    expect(thin.filter(({ event }) => event === null).map(({ seq }) => seq)).toEqual(
      Array.from({ length: 10 }, (_, i) => 40 * (i + 1)),
    );
  });
  it('refuses a number of a run twice', async () => {
    const [known] = await store.bench.records.find({ benchRunId: runs[0]!, seq: 3 });
    await expect(store.bench.records.insertMany([known!] as never)).rejects.toMatchObject({
      name: 'SequelizeUniqueConstraintError',
    });
  });
  it('counts requests of a token in their minute, however many come at once', async () => {
    const { id } = await store.bench.tokens.insert({
      name: 'counted',
      scopes: ['read'],
      hash: 'a'.repeat(64),
      personId: technician.id,
      createdAt: now,
      revokedAt: null,
      lastUsedAt: null,
      windowAt: null,
      windowCount: 0,
    });
    await Promise.all(Array.from({ length: 12 }, () => store.bench.countRequest(id, now)));
    expect(await store.bench.countRequest(id, new Date(now.getTime() + 59_000))).toBe(13);
    expect(await store.bench.countRequest(id, new Date(now.getTime() + 61_000))).toBe(1);
  });
  it.each(['recipeVersions', 'spots'] as const)('%s only ever grow', async (name) => {
    if (name === 'spots')
      await store.bench.spots.insert({
        benchRunId: runs[0]!,
        quantity: 'voltage',
        value: 3.3,
        timeS: 1,
        shownV: null,
        shownA: null,
        instrumentId: null,
        personId: technician.id,
        at: now,
      });
    await expect(store.bench[name].remove({})).rejects.toThrow(/append-only/);
  });
  it('two tests may not name the cells of one log', async () => {
    const { runId } = await importLog(fresh.lab, fresh.admin, {
      lotId,
      cellId: cells[4]!.id,
      fileName: 'one.csv',
      bytes: new TextEncoder().encode(
        `time_s,voltage_V,current_A\n${Array.from({ length: 200 }, (_, i) => `${i * 10},${(3.3 - i * 0.002).toFixed(3)},-6`).join('\n')}\n`,
      ),
    });
    const test = () =>
      store.bench.stringTests.insert({
        lotId,
        title: 'A',
        runId,
        torqueNm: null,
        cableMm2: null,
        cableM: null,
        packAh: null,
        packAhU: null,
        balancedAh: null,
        steps: [],
        personId: technician.id,
        createdAt: now,
        updatedAt: now,
      });
    await test();
    await expect(test()).rejects.toMatchObject({ name: 'SequelizeUniqueConstraintError' });
    expect(await store.evidence.cellsWithFigures(lotId, null)).toContain(cells[4]!.id);
    expect(
      await store.evidence.cellsWithFigures(lotId, [cells[5]!.id, cells[6]!.id]),
    ).not.toContain(cells[4]!.id);
    expect(await store.evidence.cellsWithFigures(lotId, [])).toEqual([]);
  });

  describe('blocks of a trace', () => {
    const random = seededRandom(8);
    const bytes = (length: number) =>
      Buffer.from(Uint8Array.from({ length }, () => Math.floor(random.uniform() * 256)));
    // Quotes, backslashes, zeros and line ends, and one that is longer than most.
    const payloads = [
      Buffer.from('\'"\\\0\n\r\x1a%_'),
      Buffer.alloc(0),
      ...Array.from({ length: 60 }, () => bytes(1 + Math.floor(random.uniform() * 9000))),
      bytes(3_000_000),
    ];
    const blocks = payloads.map((payload, i) => ({
      columnName: i % 2 === 0 ? 'voltageV' : 'pyramid3',
      blockIndex: 1000 + i,
      payload,
    }));
    it('come back byte by byte', async () => {
      const run = (await store.runs.find({}))[0]!;
      await store.transaction((t) => store.evidence.insertTraceBlocks(run.id, blocks, t));
      const stored = await store.traceBlocks.find(
        { runId: run.id },
        { order: [['blockIndex', 'ASC']] },
      );
      const mine = stored.filter(({ blockIndex }) => blockIndex >= 1000);
      expect(mine.map(({ columnName }) => columnName)).toEqual(
        blocks.map(({ columnName }) => columnName),
      );
      expect(mine.every((row, i) => Buffer.compare(row.payload, payloads[i]!) === 0)).toBe(true);
    });
    it('are taken back with their transaction, and refused without their run', async () => {
      const run = (await store.runs.find({}))[0]!;
      const count = () => store.traceBlocks.count({ runId: run.id });
      const before = await count();
      const some = blocks.slice(0, 3).map((block) => ({ ...block, blockIndex: 9000 }));
      await expect(
        store.transaction(async (t) => {
          await store.evidence.insertTraceBlocks(run.id, [some[0]!], t);
          throw new Error('changed my mind');
        }),
      ).rejects.toThrow('changed my mind');
      expect(await count()).toBe(before);
      await expect(
        store.transaction((t) => store.evidence.insertTraceBlocks(999_999, [some[1]!], t)),
      ).rejects.toThrow(/foreign key/i);
      await store.transaction((t) => store.evidence.insertTraceBlocks(run.id, [], t));
      expect(await count()).toBe(before);
    });
    it('need a transaction that is under way', () => {
      expect(() => driverOf({} as never)).toThrow('under way');
    });
  });
});
