import type { Envelope } from '@dusk-tally/core/chemistry';
import {
  type CapacityEvidence,
  type Hold,
  type HoldEvidence,
  type HoldLimits,
  holdsOf,
  HOUSE_HOLD_LIMITS,
} from '@dusk-tally/core/verdicts';
import type { HeldResult, ResultHoldRow, Transaction } from '@dusk-tally/store';
import { type LotClaim, envelopeOf } from '../lots';
import type { Lab } from '../shared';
import { type Conditioned, roundsBefore, ruleHold } from '../evidence';
import type { AtClaim, HandConditions, SlimFigure, SlimRun } from './at-claim';

/** One capacity of a cell, as measured and at the claim’s conditions. */
export interface StoodResult {
  raw: SlimFigure;
  run: SlimRun | null;
  /** How it was discharged where a hand log gave it. */
  hand: HandConditions | null;
  stood: AtClaim;
}

/** The same with what holds it. */
export interface CellResult extends StoodResult, CapacityEvidence {
  raw: SlimFigure;
  /** By rules, now; not what a person or a fit said. */
  ruled: Hold[];
  holds: HeldResult[];
}

/** A result as it is chosen among and judged, with everything that holds it. */
export function judgedResult(
  result: StoodResult,
  ruled: Hold[],
  rows: readonly ResultHoldRow[],
): CellResult {
  const { raw, stood } = result;
  const holds = heldBy({ ...result, ruled }, rows);
  return {
    ...result,
    ruled,
    holds,
    order: raw.runId ?? raw.id,
    value: stood.estimate?.value ?? raw.value,
    bound: raw.bound,
    held: holds.length > 0,
    comparable: stood.estimate !== null,
    typed: raw.runId === null,
    atClaim: stood.estimate,
    differences: stood.differences,
    corrections: stood.corrections,
  };
}

/** What holds of a lot are decided by beside its results. */
export interface HoldContext {
  limits: HoldLimits;
  ratedAh: number | null;
  model: HoldEvidence['model'];
  conditioned: Conditioned;
}

/** Limits as the lab set them. */
export const limitsOf = (changed: Partial<HoldLimits> | null | undefined): HoldLimits => ({
  ...HOUSE_HOLD_LIMITS,
  ...changed,
});

export function holdContext(
  { claim, model, profile }: Pick<LotClaim, 'claim' | 'model' | 'profile'>,
  changed: Partial<HoldLimits> | null,
  conditioned: Conditioned,
): HoldContext {
  const mass = claim.items.find(({ kind }) => kind === 'mass')?.value ?? model.massG;
  const envelope: Envelope | null = envelopeOf(model);
  return {
    limits: limitsOf(changed),
    ratedAh: claim.capacityAh?.value ?? null,
    model: {
      chemistry: model.chemistry,
      envelope,
      massG: mass,
      profile,
      // A log may go down to the claim’s cut-off where that lies below the model’s.
      cutoffV: Math.min(claim.cutoffV.value, model.cutoffV ?? profile.cutoffV),
      chargeV: model.chargeV ?? profile.chargeV,
    },
    conditioned,
  };
}

/** Rules that are looked at anew each time; a person’s word and a fit’s stay as they are. */
const isRuled = ({ rule }: Pick<ResultHoldRow, 'rule'>): boolean =>
  rule !== 'byHand' && rule !== 'outOfLine' && rule !== 'swapped';

/**
 * What the rules say of all capacities of one cell. A result that is held for another reason, or
 * set aside, is no side of a disagreement.
 * @param rows holds that are stored of the cell.
 */
export function ruleHolds(
  results: readonly StoodResult[],
  figures: readonly SlimFigure[],
  rows: readonly ResultHoldRow[],
  context: HoldContext,
): Hold[][] {
  const mass = figures.filter(({ quantity }) => quantity === 'mass').sort((a, b) => b.id - a.id)[0];
  const model = { ...context.model, massG: mass?.value ?? context.model.massG };
  const evidence = results.map(({ raw, run }): HoldEvidence => {
    const energy = figures.find(
      ({ quantity, runId, cutoffV }) =>
        quantity === 'energy' && runId === raw.runId && cutoffV === raw.cutoffV,
    );
    return {
      capacity: raw,
      energyWh: run && energy ? energy.value : null,
      ratedAh: context.ratedAh,
      model,
      sanity: run?.summary.sanity ?? null,
      findings: run?.summary.findings.map(({ code }) => code) ?? [],
      clocksApart: run?.summary.clocksApart ?? null,
      like: null,
    };
  });
  const alone = evidence.map((one) => holdsOf(one, context.limits));
  const isLifted = (result: (typeof results)[number], rule: Hold['rule']) =>
    rows.some((row) => row.rule === rule && row.liftedAt !== null && sameResult(row, result));
  const stands = results.map(
    (result, i) =>
      result.stood.estimate !== null &&
      alone[i]!.every(({ rule }) => isLifted(result, rule)) &&
      !rows.some(
        (row) => row.rule === 'byHand' && row.liftedAt === null && sameResult(row, result),
      ),
  );
  // Results on both sides of a conditioning are no repeats of each other; one typed is of today.
  const roundOf = ({ run }: StoodResult) =>
    run ? roundsBefore(context.conditioned, run.cellId, run.startedAt ?? run.createdAt) : Infinity;
  return results.map((result, i) => {
    if (!stands[i]) return alone[i]!;
    const others = results.flatMap((other, j) =>
      j !== i && stands[j] && roundOf(other) === roundOf(result) ? [other.stood.estimate!] : [],
    );
    return holdsOf(
      { ...evidence[i]!, like: { own: result.stood.estimate!, others } },
      context.limits,
    );
  });
}

const sameResult = (
  row: Pick<ResultHoldRow, 'runId' | 'readingId'>,
  { raw }: Pick<StoodResult, 'raw'>,
): boolean => (raw.runId === null ? row.readingId === raw.readingId : row.runId === raw.runId);

/** What holds one result: rules that nobody lifted, what was said of it, and its channel. */
function heldBy(
  result: StoodResult & Pick<CellResult, 'ruled'>,
  rows: readonly ResultHoldRow[],
): HeldResult[] {
  const own = rows.filter((row) => sameResult(row, result));
  const place = {
    runId: result.raw.runId,
    readingId: result.raw.runId === null ? result.raw.readingId : null,
    capacityAh: result.raw.value,
  };
  const said = own
    .filter((row) => row.liftedAt === null && !isRuled(row))
    .map((row): HeldResult => ({ ...place, holdId: row.id, rule: row.rule, text: row.text }));
  const ruled = result.ruled.flatMap(({ rule, text }): HeldResult[] => {
    const row = own.find((one) => one.rule === rule);
    return row?.liftedAt ? [] : [{ ...place, holdId: row?.id ?? null, rule, text }];
  });
  const channel: HeldResult[] = result.stood.held
    ? [{ ...place, holdId: null, rule: 'channel', text: result.stood.held }]
    : [];
  return [...said, ...ruled, ...channel];
}

/**
 * Writes what the rules say now; what no longer holds goes, unless a person lifted it.
 * @returns what came and went.
 */
export async function storeHolds(
  lab: Lab,
  results: readonly CellResult[],
  rows: readonly ResultHoldRow[],
  transaction: Transaction,
): Promise<{ fresh: number; gone: number }> {
  const { holds } = lab.store.results;
  const fresh: Omit<ResultHoldRow, 'id' | 'version'>[] = [];
  const gone: number[] = [];
  for (const result of results) {
    const own = rows.filter((row) => isRuled(row) && sameResult(row, result));
    for (const { rule, text } of result.ruled) {
      const known = own.find((row) => row.rule === rule);
      const cut = text.slice(0, 600);
      if (known && known.text !== cut)
        await holds.update({ text: cut }, { id: known.id }, transaction);
      if (!known)
        fresh.push(
          ruleHold(lab, {
            lotId: result.raw.lotId,
            cellId: result.raw.cellId,
            runId: result.raw.runId,
            readingId: result.raw.runId === null ? result.raw.readingId : null,
            rule,
            text: cut,
          }),
        );
    }
    for (const row of own)
      if (row.liftedAt === null && !result.ruled.some(({ rule }) => rule === row.rule))
        gone.push(row.id);
  }
  if (fresh.length > 0) await holds.insertMany(fresh, transaction);
  if (gone.length > 0) await holds.remove({ id: gone }, transaction);
  return { fresh: fresh.length, gone: gone.length };
}
