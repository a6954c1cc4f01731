import type * as Rows from './rows';
import { PlanTables } from './plan-tables';
import { columnTypes as c, QueryTypes, Table, type Transaction } from '../base';

/** Tables of runs under way, what drives them, and all that was planned before. */
export class BenchTables extends PlanTables {
  readonly runs = new Table<Rows.BenchRunRow>(
    this.session,
    'bench_runs',
    {
      id: c.autoId,
      jobId: c.whole,
      cellId: c.whole,
      lotId: c.whole,
      channelId: c.whole,
      recipeVersionId: c.whole,
      program: c.long,
      limits: c.long,
      startList: c.long,
      driven: c.flag,
      state: c.text,
      agent: c.text,
      speed: c.real,
      chemistry: c.text,
      expectedAh: c.real,
      startSoc: c.real,
      counterAh: c.real,
      ambientC: c.real,
      clamping: c.text,
      startedAt: c.moment,
      endedAt: c.moment,
      endReason: c.text,
      completed: c.flag,
      runId: c.whole,
      personId: c.whole,
      createdAt: c.moment,
      version: c.version,
    },
    ['program', 'limits', 'startList'],
  );
  readonly foldTroubles = new Table<Rows.FoldTroubleRow>(this.session, 'bench_fold_troubles', {
    benchRunId: c.ownId,
    reason: c.text,
    tries: c.whole,
    at: c.moment,
    nextAt: c.moment,
    leftBy: c.whole,
    leftReason: c.text,
  });
  readonly live = new Table<Rows.BenchLiveRow>(this.session, 'bench_live', {
    benchRunId: c.ownId,
    lastSeq: c.whole,
    phase: c.text,
    step: c.whole,
    stepSinceS: c.real,
    stepAh: c.real,
    givenAh: c.real,
    takenAh: c.real,
    timeS: c.real,
    voltageV: c.real,
    currentA: c.real,
    temperatureC: c.real,
    receivedAt: c.moment,
  });
  readonly records = new Table<Rows.BenchRecordRow>(
    this.session,
    'bench_records',
    {
      benchRunId: c.ownId,
      seq: c.ownId,
      timeS: c.real,
      step: c.whole,
      voltageV: c.real,
      currentA: c.real,
      temperatureC: c.real,
      counterAh: c.real,
      event: c.long,
    },
    ['event'],
  );
  readonly alarms = new Table<Rows.BenchAlarmRow>(this.session, 'bench_alarms', {
    id: c.autoId,
    benchRunId: c.whole,
    seq: c.whole,
    cellId: c.whole,
    code: c.text,
    action: c.text,
    text: c.text,
    at: c.moment,
    acknowledgedAt: c.moment,
    acknowledgedBy: c.whole,
  });
  readonly commands = new Table<Rows.BenchCommandRow>(this.session, 'bench_commands', {
    id: c.autoId,
    benchRunId: c.whole,
    kind: c.text,
    value: c.real,
    personId: c.whole,
    personName: c.text,
    at: c.moment,
    doneAt: c.moment,
  });
  readonly refusals = new Table<Rows.BenchRefusalRow>(this.session, 'bench_refusals', {
    id: c.autoId,
    agent: c.text,
    benchRunId: c.whole,
    seq: c.whole,
    reason: c.text,
    body: c.text,
    bodyHash: c.text,
    at: c.moment,
    seenAt: c.moment,
    seenBy: c.whole,
  });
  readonly spots = new Table<Rows.SpotReadingRow>(this.session, 'spot_readings', {
    id: c.autoId,
    benchRunId: c.whole,
    quantity: c.text,
    value: c.real,
    timeS: c.real,
    shownV: c.real,
    shownA: c.real,
    instrumentId: c.whole,
    personId: c.whole,
    at: c.moment,
  });
  readonly agents = new Table<Rows.AgentRow>(this.session, 'agents', {
    name: c.ownText,
    instance: c.text,
    speed: c.real,
    seenAt: c.moment,
  });
  readonly tokens = new Table<Rows.ApiTokenRow>(
    this.session,
    'api_tokens',
    {
      id: c.autoId,
      name: c.text,
      scopes: c.long,
      hash: c.text,
      personId: c.whole,
      createdAt: c.moment,
      revokedAt: c.moment,
      lastUsedAt: c.moment,
      windowAt: c.moment,
      windowCount: c.whole,
    },
    ['scopes'],
  );

  /** Counts a request of a token in its minute. @returns how many came in that minute, with this one. */
  async countRequest(tokenId: number, now: Date, transaction?: Transaction): Promise<number> {
    await this.session.run(
      `UPDATE api_tokens SET lastUsedAt = :now,
              windowCount = IF(windowAt IS NULL OR windowAt < :from, 1, windowCount + 1),
              windowAt = IF(windowAt IS NULL OR windowAt < :from, :now, windowAt)
        WHERE id = :tokenId`,
      {
        type: QueryTypes.UPDATE,
        replacements: { tokenId, now, from: new Date(now.getTime() - 60_000) },
        transaction,
      },
    );
    return (
      (await this.tokens.one({ id: tokenId }, { columns: ['windowCount'], transaction }))
        ?.windowCount ?? 0
    );
  }

  /** Records behind those a reader has, of several runs, oldest first. */
  async recordsSince(
    cursors: ReadonlyMap<number, number>,
    limit: number,
  ): Promise<Rows.BenchRecordRow[]> {
    if (cursors.size === 0) return [];
    const parts = [...cursors].map(
      ([run, seq]) => `(benchRunId = ${Math.trunc(run)} AND seq > ${Math.trunc(seq)})`,
    );
    const rows = await this.session.rows<Rows.BenchRecordRow & { event: unknown }>(
      `SELECT * FROM bench_records WHERE ${parts.join(' OR ')} ORDER BY benchRunId, seq LIMIT ${Math.trunc(limit)}`,
      { type: QueryTypes.SELECT },
    );
    return rows.map((row) => ({
      ...row,
      event:
        typeof row.event === 'string'
          ? (JSON.parse(row.event) as Rows.BenchRecordRow['event'])
          : null,
    }));
  }

  /** Every so manieth reading of a run, and all that happened in it; `event` is the word null for readings. */
  async thinned(benchRunId: number, every: number): Promise<Rows.BenchRecordRow[]> {
    const rows = await this.session.rows<Rows.BenchRecordRow & { event: unknown }>(
      `SELECT * FROM bench_records WHERE benchRunId = :benchRunId AND (seq MOD :every = 0 OR event <> 'null') ORDER BY seq`,
      { type: QueryTypes.SELECT, replacements: { benchRunId, every } },
    );
    return rows.map((row) => ({
      ...row,
      event:
        typeof row.event === 'string'
          ? (JSON.parse(row.event) as Rows.BenchRecordRow['event'])
          : null,
    }));
  }
}
