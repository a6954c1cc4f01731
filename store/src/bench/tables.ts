import type * as Rows from './rows';
import type * as StringRows from './string-rows';
import {
  columnTypes as c,
  QueryTypes,
  type Session,
  Table,
  Tables,
  type Transaction,
} from '../base';

/** Tables of recipes, jobs, runs under way and what drives them. */
export class BenchTables extends Tables {
  readonly recipes;
  readonly recipeVersions;
  readonly channels;
  readonly settings;
  readonly jobs;
  readonly runs;
  readonly live;
  readonly records;
  readonly alarms;
  readonly commands;
  readonly spots;
  readonly refusals;
  readonly plannings;
  readonly agents;
  readonly tokens;
  readonly parallelCharges;
  readonly stringTests;
  readonly stringTestCells;

  constructor(s: Session) {
    super(s);
    this.recipes = new Table<Rows.RecipeRow>(s, 'recipes', {
      id: c.autoId,
      name: c.text,
      purpose: c.text,
      current: c.whole,
      shipped: c.flag,
      retiredAt: c.moment,
      version: c.version,
    });
    this.recipeVersions = new Table<Rows.RecipeVersionRow>(
      s,
      'recipe_versions',
      {
        id: c.autoId,
        recipeId: c.whole,
        number: c.whole,
        steps: c.long,
        attendedOnly: c.flag,
        note: c.text,
        personId: c.whole,
        at: c.moment,
      },
      ['steps'],
    );
    this.channels = new Table<Rows.ChannelBenchRow>(
      s,
      'channel_bench',
      {
        channelId: c.ownId,
        limits: c.long,
        wiring: c.long,
        agent: c.text,
        updatedAt: c.moment,
        version: c.version,
      },
      ['limits', 'wiring'],
    );
    this.settings = new Table<Rows.BenchSettingsRow>(
      s,
      'bench_settings',
      {
        id: c.ownId,
        attendedFromMin: c.whole,
        attendedToMin: c.whole,
        attendedDays: c.long,
        silenceLimitS: c.real,
        ambientC: c.real,
        ambientAt: c.moment,
        plannedAt: c.moment,
        planSummary: c.long,
        version: c.version,
      },
      ['attendedDays', 'planSummary'],
    );
    this.jobs = new Table<Rows.BenchJobRow>(
      s,
      'bench_jobs',
      {
        id: c.autoId,
        cellId: c.whole,
        lotId: c.whole,
        recipeVersionId: c.whole,
        priority: c.whole,
        dueOn: c.day,
        state: c.text,
        parts: c.long,
        pinned: c.flag,
        endedReason: c.text,
        personId: c.whole,
        createdAt: c.moment,
        version: c.version,
      },
      ['parts'],
    );
    this.runs = new Table<Rows.BenchRunRow>(
      s,
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
    this.live = new Table<Rows.BenchLiveRow>(s, 'bench_live', {
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
    this.records = new Table<Rows.BenchRecordRow>(
      s,
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
    this.alarms = new Table<Rows.BenchAlarmRow>(s, 'bench_alarms', {
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
    this.commands = new Table<Rows.BenchCommandRow>(s, 'bench_commands', {
      id: c.autoId,
      benchRunId: c.whole,
      kind: c.text,
      value: c.real,
      personId: c.whole,
      personName: c.text,
      at: c.moment,
      doneAt: c.moment,
    });
    this.refusals = new Table<Rows.BenchRefusalRow>(s, 'bench_refusals', {
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
    this.plannings = new Table<Rows.PlanningRow>(s, 'plannings', {
      id: c.autoId,
      startedAt: c.moment,
      personId: c.whole,
      stoppedAt: c.moment,
      stoppedBy: c.whole,
      endedAt: c.moment,
    });
    this.spots = new Table<Rows.SpotReadingRow>(s, 'spot_readings', {
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
    this.agents = new Table<Rows.AgentRow>(s, 'agents', {
      name: c.ownText,
      instance: c.text,
      speed: c.real,
      seenAt: c.moment,
    });
    this.tokens = new Table<Rows.ApiTokenRow>(
      s,
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
    this.parallelCharges = new Table<StringRows.ParallelChargeRow>(s, 'parallel_charges', {
      id: c.autoId,
      lotId: c.whole,
      cells: c.whole,
      ratedAh: c.real,
      fromSoc: c.real,
      supplyA: c.real,
      startedAt: c.moment,
      fullAt: c.moment,
      personId: c.whole,
    });
    this.stringTests = new Table<StringRows.StringTestRow>(
      s,
      'string_tests',
      {
        id: c.autoId,
        lotId: c.whole,
        title: c.text,
        runId: c.whole,
        torqueNm: c.real,
        cableMm2: c.real,
        cableM: c.real,
        packAh: c.real,
        packAhU: c.real,
        balancedAh: c.real,
        steps: c.long,
        personId: c.whole,
        createdAt: c.moment,
        updatedAt: c.moment,
        version: c.version,
      },
      ['steps'],
    );
    this.stringTestCells = new Table<StringRows.StringTestCellRow>(s, 'string_test_cells', {
      stringTestId: c.ownId,
      place: c.ownId,
      cellId: c.whole,
    });
  }

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
