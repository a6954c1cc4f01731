import type * as Rows from './rows';
import type * as StringRows from './string-rows';
import { columnTypes as c, Table, Tables, type Transaction } from '../base';

/** Tables of what is written down before anything runs: recipes, limits, hours, jobs, banks, strings. */
export abstract class PlanTables extends Tables {
  readonly recipes = new Table<Rows.RecipeRow>(this.session, 'recipes', {
    id: c.autoId,
    name: c.text,
    purpose: c.text,
    current: c.whole,
    shipped: c.flag,
    retiredAt: c.moment,
    version: c.version,
  });
  readonly recipeVersions = new Table<Rows.RecipeVersionRow>(
    this.session,
    'recipe_versions',
    {
      id: c.autoId,
      recipeId: c.whole,
      number: c.whole,
      steps: c.long,
      attendedOnly: c.flag,
      thenRest: c.text,
      clamping: c.text,
      note: c.text,
      personId: c.whole,
      at: c.moment,
    },
    ['steps'],
  );
  /** Versions of all recipes of a purpose, retired ones too: runs keep the one they used. */
  async versionsFor(
    purpose: Rows.RecipeRow['purpose'],
    transaction?: Transaction,
  ): Promise<number[]> {
    const recipes = await this.recipes.find({ purpose }, { transaction, columns: ['id'] });
    const versions = await this.recipeVersions.find(
      { recipeId: recipes.map(({ id }) => id) },
      { transaction, columns: ['id'] },
    );
    return versions.map(({ id }) => id);
  }

  readonly channels = new Table<Rows.ChannelBenchRow>(
    this.session,
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
  readonly settings = new Table<Rows.BenchSettingsRow>(
    this.session,
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
  readonly jobs = new Table<Rows.BenchJobRow>(
    this.session,
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
  readonly plannings = new Table<Rows.PlanningRow>(this.session, 'plannings', {
    id: c.autoId,
    startedAt: c.moment,
    personId: c.whole,
    stoppedAt: c.moment,
    stoppedBy: c.whole,
    endedAt: c.moment,
  });
  readonly parallelCharges = new Table<StringRows.ParallelChargeRow>(
    this.session,
    'parallel_charges',
    {
      id: c.autoId,
      lotId: c.whole,
      cells: c.whole,
      ratedAh: c.real,
      fromSoc: c.real,
      supplyA: c.real,
      startedAt: c.moment,
      fullAt: c.moment,
      personId: c.whole,
    },
  );
  readonly stringTests = new Table<StringRows.StringTestRow>(
    this.session,
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
  readonly stringTestCells = new Table<StringRows.StringTestCellRow>(
    this.session,
    'string_test_cells',
    {
      stringTestId: c.ownId,
      place: c.ownId,
      cellId: c.whole,
    },
  );
}
