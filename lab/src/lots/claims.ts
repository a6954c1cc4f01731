import {
  CLAIM_ITEMS,
  CLAIM_KINDS,
  claimsNew,
  type ClaimKind,
  type ConditionName,
} from '@dusk-tally/core/arrivals';
import {
  type ChemistryProfile,
  claimPlausibility,
  type Envelope,
  type Plausibility,
  type Clamping,
  clampingOfSheet,
} from '@dusk-tally/core/chemistry';
import type { CellModelRow, ClaimItemRow, LotRow, Transaction } from '@dusk-tally/store';
import { byLot, found, type Lab } from '../shared';
import { profilesOf } from './profiles';

/** A value with where it came from: the claim, the model's data sheet, or the chemistry. */
export interface Inherited<T> {
  value: T;
  from: 'claim' | 'model' | 'chemistry';
}

/** The claim as it is judged: stated values, else the model's, else the chemistry's. */
export interface EffectiveClaim {
  capacityAh: Inherited<number> | null;
  rateIt: Inherited<number> | null;
  cutoffV: Inherited<number>;
  temperatureC: Inherited<number> | null;
  /** How cells are held for the capacity. */
  clamping: Inherited<Clamping> | null;
  acResistanceMohm: Inherited<number> | null;
  plausibility: Plausibility | null;
  /** Every item that the claim or the model states, with where each part comes from. */
  items: ResolvedItem[];
  /** Sold as new or unused. */
  claimedNew: boolean;
  /** Earliest production day claimed, or null. */
  producedAfter: string | null;
}

export interface ResolvedCondition {
  name: ConditionName;
  value: number | string;
  from: Inherited<unknown>['from'];
}

/** A claim item as it counts: its own value, else the model's; its conditions likewise. */
export interface ResolvedItem {
  kind: ClaimKind;
  value: number | null;
  text: string | null;
  from: Inherited<unknown>['from'];
  conditions: ResolvedCondition[];
}

function firstOf<T>(
  ...candidates: [T | null | undefined, Inherited<T>['from']][]
): Inherited<T> | null {
  for (const [value, from] of candidates)
    if (value !== null && value !== undefined) return { value, from };
  return null;
}

/** Outer dimensions of a model, when they are known. */
export function envelopeOf(model: CellModelRow): Envelope | null {
  const { diameterMm, widthMm, thicknessMm, heightMm } = model;
  if (model.format === 'cylinder')
    return diameterMm && heightMm ? { shape: 'cylinder', diameterMm, heightMm } : null;
  return widthMm && thicknessMm && heightMm
    ? { shape: 'prism', widthMm, thicknessMm, heightMm }
    : null;
}

type Item = Pick<ClaimItemRow, 'kind' | 'value' | 'text' | 'conditions'>;
type Stated = { value?: number | null; text?: string | null } & Partial<
  Record<ConditionName, number | string | null>
>;

function sizeWords(model: CellModelRow): string | null {
  const { diameterMm, widthMm, thicknessMm, heightMm } = model;
  if (model.format === 'cylinder')
    return diameterMm && heightMm ? `${diameterMm} mm × ${heightMm} mm` : null;
  return widthMm && thicknessMm && heightMm
    ? `${widthMm} mm × ${thicknessMm} mm × ${heightMm} mm`
    : null;
}

/** What a model's data sheet says of each item. */
function sheetOf(model: CellModelRow): Partial<Record<ClaimKind, Stated>> {
  const { rateIt, cutoffV, chargeV, taperIt, temperatureC, restMinutes } = model;
  return {
    capacity: {
      value: model.ratedAh,
      rateIt,
      cutoffV,
      chargeV,
      taperIt,
      temperatureC,
      restMinutes,
      clamping: clampingOfSheet(model),
    },
    acResistance: { value: model.acResistanceMohm },
    dcResistance: { value: model.dcResistanceMohm },
    maxCharge: { value: model.maxChargeA },
    maxDischarge: { value: model.maxDischargeA },
    mass: { value: model.massG, tolerancePct: model.massTolerancePct },
    size: { text: sizeWords(model), tolerancePct: model.sizeTolerancePct },
  };
}

function resolveItem(
  kind: ClaimKind,
  item: Item | undefined,
  sheet: Stated,
  profile: ChemistryProfile,
): ResolvedItem | null {
  // A capacity whose conditions alone are claimed has its value from the data sheet.
  const open = !item || (kind === 'capacity' && item.value === null);
  const value = open ? (sheet.value ?? null) : item.value;
  const text = open ? (sheet.text ?? null) : item.text;
  if (value === null && text === null) return null;
  const usual: Partial<Record<ConditionName, number>> =
    kind === 'capacity' ? { cutoffV: profile.cutoffV, chargeV: profile.chargeV } : {};
  const conditions = CLAIM_ITEMS[kind].conditions.flatMap(({ name }): ResolvedCondition[] => {
    const found = firstOf<number | string>(
      [item?.conditions[name], 'claim'],
      [sheet[name], 'model'],
      [usual[name], 'chemistry'],
    );
    return found ? [{ name, ...found }] : [];
  });
  return { kind, value, text, from: open ? 'model' : 'claim', conditions };
}

/** Resolves what a lot’s claim means: each item and condition from claim, model or chemistry. */
export function effectiveClaim(
  items: readonly Item[],
  model: CellModelRow,
  profile: ChemistryProfile,
): EffectiveClaim {
  const stated = (kind: ClaimKind) => items.find((candidate) => candidate.kind === kind);
  const sheet = sheetOf(model);
  const resolved = CLAIM_KINDS.flatMap(
    (kind) => resolveItem(kind, stated(kind), sheet[kind] ?? {}, profile) ?? [],
  );
  const capacity = stated('capacity');
  const ofCapacity = (name: 'rateIt' | 'temperatureC') =>
    firstOf<number>([capacity?.conditions[name], 'claim'], [model[name], 'model']);
  const number = (kind: ClaimKind): Inherited<number> | null => {
    const item = resolved.find((candidate) => candidate.kind === kind);
    return item && item.value !== null ? { value: item.value, from: item.from } : null;
  };
  const capacityAh = number('capacity');
  return {
    capacityAh,
    rateIt: ofCapacity('rateIt'),
    cutoffV: firstOf(
      [capacity?.conditions.cutoffV, 'claim'],
      [model.cutoffV, 'model'],
      [profile.cutoffV, 'chemistry'],
    )!,
    temperatureC: ofCapacity('temperatureC'),
    clamping: firstOf<Clamping>(
      [capacity?.conditions.clamping, 'claim'],
      [clampingOfSheet(model), 'model'],
    ),
    acResistanceMohm: number('acResistance'),
    plausibility: capacityAh
      ? claimPlausibility({
          ratedAh: capacityAh.value,
          chemistry: model.chemistry,
          envelope: envelopeOf(model),
          massG: number('mass')?.value ?? null,
          profile,
        })
      : null,
    items: resolved,
    claimedNew: claimsNew([stated('condition')?.text, stated('grade')?.text]),
    producedAfter: stated('producedAfter')?.text ?? null,
  };
}

export interface LotClaim {
  lot: LotRow;
  model: CellModelRow;
  profile: ChemistryProfile;
  items: ClaimItemRow[];
  claim: EffectiveClaim;
}

/** Some lots with their models, profiles and claims, asked of all at once: by lot. */
export async function loadClaims(
  lab: Lab,
  lots: readonly LotRow[],
  transaction?: Transaction,
): Promise<Map<number, LotClaim>> {
  const { store } = lab;
  const modelIds = [...new Set(lots.map(({ modelId }) => modelId))];
  const [models, items] = await Promise.all([
    store.cellModels.find({ id: modelIds }, { transaction }),
    store.claimItems.find(
      { lotId: lots.map(({ id }) => id) },
      { transaction, order: [['id', 'ASC']] },
    ),
  ]);
  const profiles = await profilesOf(
    lab,
    models.map(({ chemistry }) => chemistry),
    transaction,
  );
  const modelOf = new Map(models.map((model) => [model.id, model]));
  const itemsOf = byLot(items);
  return new Map(
    lots.map((lot) => {
      const model = found(modelOf.get(lot.modelId) ?? null, 'The cell model');
      const profile = profiles.get(model.chemistry)!;
      const own = itemsOf.get(lot.id) ?? [];
      return [
        lot.id,
        { lot, model, profile, items: own, claim: effectiveClaim(own, model, profile) },
      ];
    }),
  );
}

/** A lot with its model, the chemistry's profile and the claim it is judged by. */
export async function loadClaim(
  lab: Lab,
  lotId: number,
  transaction?: Transaction,
): Promise<LotClaim> {
  const lot = found(await lab.store.lots.one({ id: lotId }, { transaction }), 'That lot');
  return (await loadClaims(lab, [lot], transaction)).get(lotId)!;
}
