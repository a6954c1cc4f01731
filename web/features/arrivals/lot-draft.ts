import type { ChemistryProfile } from '@dusk-tally/core/chemistry';
import { claimPlausibility, type Plausibility } from '@dusk-tally/core/chemistry';
import { canonicalJson } from '@dusk-tally/core/units';
import { refusalOf, takeInInput } from '@dusk-tally/lab/inputs';
import { z } from 'zod';
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

/** A lot as it is typed, before it is taken in; its fields are called as the act calls them. */
export type LotDraft = {
  title: string;
  supplierName: string;
  orderedQuantity: string;
  quantity: string;
  takenAs: 'cells' | 'packs';
  /** Empty for the house’s. */
  currency: string;
  /** What one of it is worth in the house’s; as it was typed where it is none. */
  rate: number | null;
  /** Null: today. */
  rateOn: string | null;
  orderedOn: string;
  /** Null: today, whichever day the form is taken up again. */
  arrivedOn: string | null;
  /** Empty for none chosen, `new` for a new one. */
  modelId: string;
  model: typeof NEW_MODEL;
  claim: ClaimDraft;
  offer: string;
  /** The last try: the same lot sent again has the same key, so that a lost answer makes no second one. */
  tried: { key: string; of: string } | null;
} & Record<(typeof COSTS)[number][0], string>;

export const emptyLot = (hasModels: boolean): LotDraft => ({
  title: '',
  supplierName: '',
  orderedQuantity: '',
  quantity: '',
  takenAs: 'cells',
  price: '',
  discount: '',
  freight: '',
  duty: '',
  fees: '',
  currency: '',
  rate: null,
  rateOn: null,
  orderedOn: '',
  arrivedOn: null,
  modelId: hasModels ? '' : 'new',
  model: NEW_MODEL,
  claim: EMPTY_CLAIM,
  offer: '',
  tried: null,
});

/** A draft with the key of its try: that of the last one as long as nothing was changed since. */
export function triedAs(lot: LotDraft, newKey: () => string): NonNullable<LotDraft['tried']> {
  const { tried, ...typed } = lot;
  const of = canonicalJson(typed);
  return tried?.of === of ? tried : { key: newKey(), of };
}

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
  chosenModel(lot, context) ?? { ...lot.model, ...modelNumbers(lot.model) };

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
  const claim = claimFromDraft(lot.claim);
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

/** What is wrong with a draft, by field. */
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
  const problems: LotProblems = {};
  if (lot.title.trim() === '') problems.title = 'Expected a short name for the lot.';
  if (lot.supplierName.trim() === '') problems.supplierName = 'Expected the supplier’s name.';
  const quantity = count(lot.quantity, ', or nothing while the box is on its way');
  const ordered = count(lot.orderedQuantity, '');
  if ('problem' in quantity) problems.quantity = quantity.problem;
  else if (quantity.value === 0)
    problems.quantity = '0 cells are no lot. Leave it empty while the box is on its way.';
  if ('problem' in ordered) problems.orderedQuantity = ordered.problem;
  for (const [name] of COSTS)
    if (Number.isNaN(costOf(lot[name], lot.price)))
      problems[name] = `Expected an amount; found “${lot[name]}”.`;
  const chosen = chosenModel(lot, context);
  if (modelChoice(lot, context) === '') problems.modelId = 'Choose one, or describe a new one.';
  const badNumber = chosen
    ? null
    : MODEL_NUMBERS.find((name) => Number.isNaN(modelNumbers(lot.model)[name]));
  if (badNumber) problems.model = `Expected a number; found “${lot.model[badNumber]}”.`;
  const claim = claimFromDraft(lot.claim);
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
      title: lot.title,
      supplierName: lot.supplierName,
      model: chosen
        ? { id: chosen.id }
        : {
            ...lot.model,
            ...modelNumbers(lot.model),
            terminalType: lot.model.terminalType || null,
          },
      quantity: lot.takenAs === 'packs' ? 0 : (quantity.value ?? 0),
      orderedQuantity: ordered.value,
      takenAs: lot.takenAs,
      ...Object.fromEntries(COSTS.map(([name]) => [name, costOf(lot[name], lot.price)])),
      ...(lot.currency.trim() !== '' && {
        currency: lot.currency,
        rate: lot.rate,
        rateOn: lot.rateOn ?? context.today,
      }),
      offer: lot.offer,
      orderedOn: lot.orderedOn || null,
      arrivedOn: (lot.arrivedOn ?? context.today) || null,
      claim: claim.claim,
    },
  };
}

/** Where a refusal belongs in the form; null for the form as a whole. */
export function fieldOfRefusal(field: string | undefined): keyof LotDraft | null {
  const head = field?.split('.')[0] ?? '';
  return Object.hasOwn(emptyLot(true), head) ? (head as keyof LotDraft) : null;
}

/** A key in its form, where none is sent yet. */
const NO_KEY = '00000000-0000-4000-8000-000000000000';

/** The form, checked as it is read, and then as the act itself checks it. */
export const takeInForm = (context: LotContext) =>
  z.custom<LotDraft>().superRefine((lot, { addIssue }) => {
    const read = readLot(lot, context, NO_KEY);
    const refuse = (field: string | null, message: string) =>
      addIssue({ code: 'custom', path: field === null ? [] : [field], message });
    if ('problems' in read) {
      for (const [field, message] of Object.entries(read.problems)) refuse(field, message!);
      return;
    }
    const { error } = takeInInput.safeParse(read.input);
    if (!error) return;
    const { field, message } = refusalOf(error, read.input);
    refuse(fieldOfRefusal(field) ?? 'title', message);
  });
