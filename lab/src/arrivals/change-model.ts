import { GATE_WORDS, triageCell, TRIAGE_PROTOCOLS } from '@dusk-tally/core/arrivals';
import type { CellModelRow, LotRow } from '@dusk-tally/store';
import { z } from 'zod';
import { found, type Lab, LabError, procedure, question } from '../shared';
import { bumpLot, effectiveClaim, loadClaim, openLot, profileOf } from '../lots';
import { lotRules } from './refresh-arrivals';

export interface ModelChange {
  from: { name: string; chemistry: string };
  to: { name: string; chemistry: string };
  /** One sentence for each thing that would no longer hold, or would be judged anew. */
  consequences: string[];
}

/** What taking a lot as another model would invalidate, before anything is changed. */
export const previewModelChange = question({
  role: 'technician',
  input: z.object({ lotId: z.int(), modelId: z.int() }),
  run: (lab, { lotId, modelId }) => consequencesOf(lab, lotId, modelId),
});

async function consequencesOf(lab: Lab, lotId: number, modelId: number): Promise<ModelChange> {
  const { store } = lab;
  const { model, items, claim } = await loadClaim(lab, lotId);
  const next = found(await store.cellModels.one({ id: modelId }), 'That cell model');
  const after = effectiveClaim(items, next, await profileOf(lab, next.chemistry));
  const [runs, judged, arrivals, reports, packs, rules] = await Promise.all([
    store.runs.count({ lotId }),
    store.verdicts.standings.count({ lotId, grade: { not: null } }),
    store.arrivals.cells.find({ lotId }),
    store.reports.count({ lotId }),
    store.arrivals.packs.find({ lotId }),
    lotRules(lab, lotId),
  ]);
  const say: string[] = [];
  const read = arrivals.filter((row) => row.firstV !== null);
  const moved = read.filter((row) => triaged(row, next) !== row.triage);
  if (next.chemistry !== model.chemistry && read.length > 0)
    say.push(
      `${read.length} first voltages are judged by ${next.chemistry} instead of ${model.chemistry}: ${moved.length === 0 ? 'no cell goes elsewhere' : `${moved.length} ${moved.length === 1 ? 'cell goes' : 'cells go'} elsewhere (${[...new Set(moved.map((row) => triaged(row, next)))].map((outcome) => TRIAGE_WORDS[outcome]).join(', ')} now)`}.`,
    );
  const released = arrivals.filter((row) => row.gate === 'recovering').length;
  if (released > 0)
    say.push(
      `${released} ${released === 1 ? 'cell is' : 'cells are'} in slow recovery to a voltage for ${model.chemistry}: stop and look first.`,
    );
  if (runs > 0 && claim.cutoffV.value !== after.cutoffV.value)
    say.push(
      `${runs} runs are computed again to ${after.cutoffV.value} V instead of ${claim.cutoffV.value} V; a run charged for ${model.chemistry} may not be a full one.`,
    );
  else if (runs > 0 && next.chemistry !== model.chemistry)
    say.push(`${runs} runs were charged as ${model.chemistry}: they may not have begun full.`);
  if (judged > 0) say.push(`Verdicts and grades of ${judged} cells are worked out again.`);
  if (claim.plausibility?.possible !== after.plausibility?.possible && after.plausibility)
    say.push(after.plausibility.sentence);
  const opened = packs.filter((pack) => pack.chemistry && pack.chemistry !== next.chemistry).length;
  if (opened > 0) say.push(`${opened} packs were broken down as ${model.chemistry}.`);
  if (model.format !== next.format)
    say.push('Findings already recorded stay, those the other format cannot have too.');
  if (reports > 0)
    say.push(
      `${reports} ${reports === 1 ? 'report was' : 'reports were'} issued and will not change; replace ${reports === 1 ? 'it' : 'them'}.`,
    );
  return {
    from: { name: model.name, chemistry: model.chemistry },
    to: { name: next.name, chemistry: next.chemistry },
    consequences: say,
  };

  function triaged(row: (typeof arrivals)[number], as: CellModelRow) {
    return triageCell(TRIAGE_PROTOCOLS[rules.school], as.chemistry, {
      lowestV: row.lowestV!,
      newestV: row.newestV!,
      released: false,
      recovery: null,
    }).outcome;
  }
}

const TRIAGE_WORDS = {
  test: 'to test',
  waitsForLead: GATE_WORDS.waitsForLead,
  recovering: GATE_WORDS.recovering,
  discard: GATE_WORDS.discard,
} as const;

/** Takes a lot as another model, once its consequences were read; everything derived is made again. */
export const changeLotModel = procedure({
  role: 'lead',
  input: z.object({
    lotId: z.int(),
    version: z.int(),
    modelId: z.int(),
    /** The consequences as they were shown; when they are others by now, nothing is changed. */
    accepted: z.array(z.string()),
    reason: z.string().trim().min(3, 'Expected a reason.').max(400),
  }),
  run: async ({ lab, input, transaction, audit, changed }): Promise<LotRow> => {
    const lot = await openLot(lab, input.lotId, transaction, true);
    const change = await consequencesOf(lab, input.lotId, input.modelId);
    if (JSON.stringify(change.consequences) !== JSON.stringify(input.accepted))
      throw new LabError(
        'conflict',
        'What this change would invalidate is no longer what was shown. Nothing was changed; read it again.',
        { current: change },
      );
    await bumpLot(lab, input.lotId, input.version, transaction, { modelId: input.modelId });
    const after = await loadClaim(lab, input.lotId, transaction);
    changed({ what: 'cellModel', lotId: input.lotId });
    await audit({
      act: 'changed model of lot',
      subjectType: 'lot',
      subjectId: lot.code,
      before: change.from,
      after: { ...change.to, reason: input.reason, consequences: change.consequences },
    });
    return after.lot;
  },
});
