import type { ChemistryProfile } from '@dusk-tally/core/chemistry';
import { claimPlausibility, type Plausibility } from '@dusk-tally/core/chemistry';
import { typedNumber } from '@/kit/typed-number';
import type { NewLot } from './acts';
import { type ClaimDraft, claimFromDraft, costOf, EMPTY_CLAIM } from './claim-draft';
import { MODEL_NUMBERS, modelNumbers, NEW_MODEL } from './model-fields';
import type { ModelOption } from './model-option';

/** What a lot cost, by name. */
export const COSTS = [
  ['price', 'Price'],
  ['discount', 'Discount'],
  ['freight', 'Freight'],
  ['duty', 'Duty'],
  ['fees', 'Payment fees'],
] as const;

const EMPTY_ORDER = {
  title: '',
  supplierName: '',
  ordered: '',
  quantity: '',
  takenAs: 'cells' as 'cells' | 'packs',
  price: '',
  discount: '',
  freight: '',
  duty: '',
  fees: '',
  orderedOn: '',
  /** Null: today, whichever day the form is taken up again. */
  arrivedOn: null as string | null,
};

/** A lot as it is typed, before it is taken in. */
export interface LotDraft {
  order: typeof EMPTY_ORDER;
  /** Empty for none chosen, `new` for a new one. */
  modelId: string;
  newModel: typeof NEW_MODEL;
  draft: ClaimDraft;
  offer: string;
  /** Of this try; another one as soon as something changes. */
  clientKey: string;
}

export const emptyLot = (hasModels: boolean): LotDraft => ({
  order: EMPTY_ORDER,
  modelId: hasModels ? '' : 'new',
  newModel: NEW_MODEL,
  draft: EMPTY_CLAIM,
  offer: '',
  clientKey: '',
});

/** What a draft is read by. */
export interface LotContext {
  models: readonly ModelOption[];
  profiles: readonly ChemistryProfile[];
  today: string;
}

/** The model that is chosen; null for a new one, and for one that is there no more. */
export const chosenModel = ({ modelId }: LotDraft, { models }: LotContext): ModelOption | null =>
  models.find(({ id }) => String(id) === modelId) ?? null;

/** The choice as it stands: a model that was kept and is there no more is none. */
export const modelChoice = (lot: LotDraft, context: LotContext): string =>
  lot.modelId === 'new' || chosenModel(lot, context) ? lot.modelId : '';

/** The data sheet claims inherit from: of the chosen model, or as the new one is typed. */
export const sheetOf = (lot: LotDraft, context: LotContext) =>
  chosenModel(lot, context) ?? { ...lot.newModel, ...modelNumbers(lot.newModel) };

function envelopeFrom(
  model: Pick<ModelOption, 'format' | 'diameterMm' | 'widthMm' | 'thicknessMm' | 'heightMm'>,
) {
  const { format, diameterMm, widthMm, thicknessMm, heightMm } = model;
  if (format === 'cylinder')
    return diameterMm && heightMm ? ({ shape: 'cylinder', diameterMm, heightMm } as const) : null;
  return widthMm && thicknessMm && heightMm
    ? ({ shape: 'prism', widthMm, thicknessMm, heightMm } as const)
    : null;
}

/** Whether the claim can be, by size, mass and chemistry; null where nothing says. */
export function plausibilityOf(lot: LotDraft, context: LotContext): Plausibility | null {
  const claim = claimFromDraft(lot.draft);
  const claimed = (kind: 'capacity' | 'mass') =>
    'claim' in claim ? claim.claim.find((item) => item.kind === kind)?.value : null;
  const sheet = sheetOf(lot, context);
  const ratedAh = claimed('capacity') ?? sheet.ratedAh;
  const profile = context.profiles.find(({ chemistry }) => chemistry === sheet.chemistry);
  if (!profile || !ratedAh || ratedAh <= 0 || modelChoice(lot, context) === '') return null;
  return claimPlausibility({
    ratedAh,
    chemistry: sheet.chemistry,
    envelope: envelopeFrom(sheet),
    massG: claimed('mass') ?? sheet.massG,
    profile,
  });
}

/** What is wrong with a draft, by field; `claim` and `model` for those that show it themselves. */
export type LotProblems = Partial<Record<string, string>>;

function count(text: string, what: string): { value: number | null } | { problem: string } {
  const value = typedNumber(text, 'count');
  return value !== null && (!Number.isInteger(value) || value < 0)
    ? { problem: `Expected a whole number${what}; found “${text}”.` }
    : { value };
}

/** A draft as it is taken in, or what is wrong with it. */
export function readLot(
  lot: LotDraft,
  context: LotContext,
  clientKey: string,
): { input: NewLot } | { problems: LotProblems } {
  const { order, newModel, draft, offer } = lot;
  const problems: LotProblems = {};
  if (order.title.trim() === '') problems.title = 'Expected a short name for the lot.';
  if (order.supplierName.trim() === '') problems.supplierName = 'Expected the supplier’s name.';
  const quantity = count(order.quantity, ', or nothing while the box is on its way');
  const ordered = count(order.ordered, '');
  if ('problem' in quantity) problems.quantity = quantity.problem;
  else if (quantity.value === 0)
    problems.quantity = '0 cells are no lot. Leave it empty while the box is on its way.';
  if ('problem' in ordered) problems.ordered = ordered.problem;
  for (const [name] of COSTS)
    if (Number.isNaN(costOf(order[name], order.price)))
      problems[name] = `Expected an amount; found “${order[name]}”.`;
  const chosen = chosenModel(lot, context);
  if (modelChoice(lot, context) === '') problems.modelId = 'Choose one, or describe a new one.';
  const badNumber = chosen
    ? null
    : MODEL_NUMBERS.find((name) => Number.isNaN(modelNumbers(newModel)[name]));
  if (badNumber) problems.model = `Expected a number; found “${newModel[badNumber]}”.`;
  const claim = claimFromDraft(draft);
  if ('problem' in claim) problems.claim = claim.problem;
  if (
    Object.keys(problems).length > 0 ||
    !('claim' in claim) ||
    'problem' in quantity ||
    'problem' in ordered
  )
    return { problems };
  return {
    input: {
      clientKey,
      title: order.title,
      supplierName: order.supplierName,
      model: chosen
        ? { id: chosen.id }
        : { ...newModel, ...modelNumbers(newModel), terminalType: newModel.terminalType || null },
      quantity: order.takenAs === 'packs' ? 0 : (quantity.value ?? 0),
      orderedQuantity: ordered.value,
      takenAs: order.takenAs,
      ...Object.fromEntries(COSTS.map(([name]) => [name, costOf(order[name], order.price)])),
      offer,
      orderedOn: order.orderedOn || null,
      arrivedOn: (order.arrivedOn ?? context.today) || null,
      claim: claim.claim,
    },
  };
}

/** Fields of the form by what the act calls them. */
const FIELDS: Readonly<Record<string, string>> = { orderedQuantity: 'ordered' };

/** Where a refusal of the server belongs in the form; null for the form as a whole. */
export function fieldOfRefusal(field: string | undefined): string | null {
  if (!field) return null;
  const [head] = field.split('.') as [string];
  if (head === 'claim' || head === 'model') return head;
  const own = FIELDS[head] ?? head;
  return own in EMPTY_ORDER ? own : null;
}
