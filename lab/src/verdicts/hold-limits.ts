import type { HoldLimits, HoldRule } from '@dusk-tally/core/verdicts';
import type { Transaction } from '@dusk-tally/store';
import { z } from 'zod';
import { holdLimitsFields, holdLimitsInput } from '../inputs';
import { found, type Lab, LabError, procedure, question } from '../shared';
import { resultsOf } from './cell-evidence';
import { type CellResult, limitsOf } from './holds';
import { rulesOf, standingFigures } from './standings';

/** Changes the limits holds are decided by; every lot is judged anew. */
export const changeHoldLimits = procedure({
  role: 'lead',
  input: holdLimitsInput,
  run: async ({ lab, input, transaction, audit, changed }): Promise<void> => {
    const { version, reason, ...limits } = input;
    const settings = found(
      await lab.store.settings.one({ id: 1 }, { transaction, forUpdate: true }),
      'The lab’s settings',
    );
    const before = limitsOf(settings.holdLimits);
    if (settings.version !== version)
      throw new LabError(
        'conflict',
        'Somebody changed the settings meanwhile. Nothing was stored; choose between theirs and yours.',
        { current: { ...before, version: settings.version } },
      );
    if (!(Object.keys(limits) as (keyof HoldLimits)[]).some((key) => limits[key] !== before[key]))
      throw new LabError('invalid', 'Nothing is different from before.');
    await lab.store.settings.update(
      { holdLimits: limits, version: version + 1 },
      { id: 1 },
      transaction,
    );
    changed({ what: 'holdLimits' });
    await audit({
      act: 'changed limits of holds',
      subjectType: 'lab',
      subjectId: 'holds',
      before,
      after: { ...limits, reason },
    });
  },
});

/** Limits holds are decided by, the house’s where the lab changed none, and what they are a version of. */
export const holdLimits = question({
  role: 'technician',
  input: z.object({}),
  run: async (lab): Promise<HoldLimits & { version: number }> => {
    const settings = found(await lab.store.settings.one({ id: 1 }), 'The lab’s settings');
    return { ...limitsOf(settings.holdLimits), version: settings.version };
  },
});

/** A result that other limits would hold, or let count. */
export interface MovedResult {
  cell: string;
  lot: string;
  rule: HoldRule;
  /** Why, in words, as the rule says it. */
  text: string;
}

/** What other limits would do, before they are kept. */
export interface LimitsPreview {
  held: MovedResult[];
  freed: MovedResult[];
  /** Results the rules were asked about. */
  results: number;
}

/** Cells looked at in one go: others are answered in between. */
const CELLS_AT_ONCE = 100;

/** What moves of one lot when its results are held by other limits. */
async function movedOfLot(
  lab: Lab,
  { id: lotId, code }: { id: number; code: string },
  limits: HoldLimits,
  preview: LimitsPreview,
  transaction: Transaction,
): Promise<void> {
  const [rules, ids] = await Promise.all([
    rulesOf(lab, lotId, transaction),
    lab.store.evidence.cellsWithFigures(lotId, null, transaction),
  ]);
  const other = { ...rules, holding: { ...rules.holding, limits } };
  for (let from = 0; from < ids.length; from += CELLS_AT_ONCE) {
    const cellIds = ids.slice(from, from + CELLS_AT_ONCE);
    const [figures, holds, runs, cells] = await Promise.all([
      standingFigures(lab, lotId, cellIds, transaction),
      lab.store.results.holds.find({ lotId, cellId: cellIds }, { transaction }),
      lab.store.runs.find(
        { cellId: cellIds },
        { transaction, columns: ['id', 'cellId', 'summary', 'channelId', 'ambientC'] },
      ),
      lab.store.cells.find({ id: cellIds }, { transaction, columns: ['id', 'number'] }),
    ]);
    for (const { id, number } of cells) {
      const stored = {
        figures: figures.filter(({ cellId }) => cellId === id),
        runs: new Map(runs.flatMap((run) => (run.cellId === id ? [[run.id, run] as const] : []))),
        arrival: undefined,
        holds: holds.filter(({ cellId }) => cellId === id),
      };
      const then = resultsOf(stored, other);
      resultsOf(stored, rules).forEach((result, at) => {
        preview.results += 1;
        // One that another rule or a person holds stays held whatever becomes of this rule.
        const [was, is] = [result.holds, then[at]!.holds];
        const moved = ([hold]: CellResult['holds']): MovedResult[] =>
          hold ? [{ cell: number, lot: code, rule: hold.rule, text: hold.text }] : [];
        if (was.length === 0) preview.held.push(...moved(is));
        if (is.length === 0) preview.freed.push(...moved(was));
      });
    }
  }
}

/** Results that other limits would hold, and those they would let count; nothing is changed. */
export const previewHoldLimits = question({
  role: 'lead',
  input: holdLimitsFields,
  run: async (lab, limits): Promise<LimitsPreview> => {
    const preview: LimitsPreview = { held: [], freed: [], results: 0 };
    await lab.store.transaction(async (transaction) => {
      const lots = await lab.store.lots.find(
        {},
        { transaction, columns: ['id', 'code'], order: [['id', 'ASC']] },
      );
      for (const lot of lots) await movedOfLot(lab, lot, limits, preview, transaction);
    });
    return preview;
  },
});
