import { CHEMISTRY_PROFILES } from '@dusk-tally/core/chemistry';
import { takeInInput } from '@dusk-tally/lab/inputs';
import { describe, expect, it } from 'vitest';
import {
  chosenModel,
  emptyLot,
  fieldOfRefusal,
  type LotContext,
  type LotDraft,
  modelChoice,
  plausibilityOf,
  readLot,
  takeInForm,
  triedAs,
} from '@/features/arrivals/lot-draft';
import type { ModelOption } from '@/features/arrivals/model-option';

const MODEL = {
  id: 7,
  name: 'Sedge P104',
  chemistry: 'LFP',
  format: 'prism',
  widthMm: 130,
  thicknessMm: 36,
  heightMm: 195,
  ratedAh: 104,
} as ModelOption;
const context: LotContext = {
  models: [MODEL],
  profiles: Object.values(CHEMISTRY_PROFILES),
  today: '2026-11-27',
};
const KEY = '0b9f6a52-3f83-4b7e-8b93-9b1d1f6f2b11';
const lot = (more: Partial<LotDraft> = {}): LotDraft => ({
  ...emptyLot(true),
  modelId: '7',
  title: 'A lot',
  supplierName: 'Marl Cells',
  ...more,
});
const read = (draft: LotDraft) => readLot(draft, context, KEY);
const problemsOf = (draft: LotDraft) => {
  const made = read(draft);
  return 'problems' in made ? made.problems : {};
};

describe('a lot as it is typed', () => {
  it('is what the act takes, with the day of today where none is said', () => {
    const made = read(lot({ quantity: '24', price: '1.128,00', discount: '4 %' }));
    expect(made).toMatchObject({
      input: {
        title: 'A lot',
        model: { id: 7 },
        quantity: 24,
        price: 1128,
        discount: 45.12,
        arrivedOn: '2026-11-27',
        orderedOn: null,
        clientKey: KEY,
      },
    });
    expect(takeInInput.safeParse('input' in made ? made.input : null).success).toBe(true);
  });

  it.each([
    [{ title: ' ' }, 'title', /short name/],
    [{ supplierName: '' }, 'supplierName', /supplier’s name/],
    [{ quantity: '-3' }, 'quantity', /whole number, or nothing/],
    [{ quantity: '2.5' }, 'quantity', /found “2.5”/],
    [{ quantity: '0' }, 'quantity', /0 cells are no lot/],
    [{ orderedQuantity: 'many' }, 'orderedQuantity', /whole number/],
    [{ price: 'much' }, 'price', /amount; found “much”/],
  ] as const)('%o is refused on its field', (order, field, words) => {
    expect(Object.keys(problemsOf(lot(order)))).toEqual([field]);
    expect(problemsOf(lot(order))[field]).toMatch(words);
  });

  it('says everything that is wrong at once, each on its field', () => {
    expect(Object.keys(problemsOf(emptyLot(true)))).toEqual(['title', 'supplierName', 'modelId']);
  });

  it('packs are counted when they are broken down', () => {
    const made = read(lot({ takenAs: 'packs', quantity: '24', orderedQuantity: '12' }));
    expect(made).toMatchObject({ input: { quantity: 0, orderedQuantity: 12 } });
  });

  it('a kept model that is there no more is no choice', () => {
    const gone = lot({ modelId: '99' });
    expect(chosenModel(gone, context)).toBeNull();
    expect(modelChoice(gone, context)).toBe('');
    expect(problemsOf(gone).modelId).toMatch(/Choose one/);
  });

  it('a new model with a number that is none is refused there', () => {
    const { model } = emptyLot(true);
    const made = problemsOf(lot({ modelId: 'new', model: { ...model, massG: 'heavy' } }));
    expect(made.model).toMatch(/found “heavy”/);
  });

  it('what a cell of this size cannot hold is said while it is typed', () => {
    const claimed = (value: string) => lot({ claim: { capacity: { value, conditions: {} } } });
    expect(plausibilityOf(claimed('104'), context)!.possible).toBe(true);
    expect(plausibilityOf(claimed('400'), context)!.possible).toBe(false);
    expect(plausibilityOf(lot({ modelId: '' }), context)).toBeNull();
  });

  it('a refusal of the server lands on the field it is of', () => {
    expect(fieldOfRefusal('orderedQuantity')).toBe('orderedQuantity');
    expect(fieldOfRefusal('discount')).toBe('discount');
    expect(fieldOfRefusal('claim.0.value')).toBe('claim');
    expect(fieldOfRefusal('model.name')).toBe('model');
    expect(fieldOfRefusal('labels.3')).toBeNull();
    expect(fieldOfRefusal('constructor')).toBeNull();
    expect(fieldOfRefusal(undefined)).toBeNull();
  });

  it('is checked as the act checks it, each refusal on its field', () => {
    const refusals = (draft: LotDraft) =>
      (takeInForm(context).safeParse(draft).error?.issues ?? []).map(({ path, message }) => [
        path.join('.'),
        message,
      ]);
    expect(refusals(lot({ quantity: '3' }))).toEqual([]);
    expect(refusals(lot({ quantity: '20001' }))).toEqual([
      ['quantity', expect.stringMatching(/at most 20000/)],
    ]);
    expect(refusals(lot({ price: '10', discount: '11' }))).toEqual([
      ['discount', expect.stringMatching(/price/)],
    ]);
    expect(refusals(lot({ orderedOn: '2026-12-01' }))).toHaveLength(1);
    expect(refusals(lot({ claim: { capacity: { value: '-104', conditions: {} } } }))).toEqual([
      ['claim', expect.stringMatching(/apacity/)],
    ]);
  });

  it('sent again as it was has the same key, however its fields are ordered', () => {
    let made = 0;
    const key = () => `key ${++made}`;
    const first = triedAs(lot(), key);
    expect(triedAs({ ...lot(), tried: first }, key)).toBe(first);
    const turned = Object.fromEntries(Object.entries(lot()).reverse()) as LotDraft;
    expect(triedAs({ ...turned, tried: first }, key)).toBe(first);
    expect(triedAs({ ...lot({ price: '1' }), tried: first }, key).key).toBe('key 2');
  });
});
