import { type Cents, GOOD_LINE, inHouseCents } from '@dusk-tally/core/money';
import type { LotBooksRow, LotRow, Transaction } from '@dusk-tally/store';
import { found, type Lab, LabError } from '../shared';

/** What people said of a lot’s money. */
export type KeptBooks = Omit<LotBooksRow, 'id' | 'lotId' | 'personId' | 'at'>;

/** What is kept of a lot’s money, before anybody said anything. */
export const UNTOLD: KeptBooks = {
  minutes: 0,
  centsPerMinute: 0,
  line: GOOD_LINE,
  gradePrices: {},
  refundCents: null,
  returnFreightCents: 0,
  packingMinutes: 0,
  partialRefundCents: 0,
  replacementCents: null,
  asksTesting: false,
  rate: null,
  rateOn: null,
  benchCentsPerHour: 0,
  centsPerKwh: 0,
  claimedCycles: null,
  returnDays: null,
  partialDays: null,
  version: 0,
};

/** A currency as it was typed, with the day’s rate. */
export interface TypedCurrency {
  currency: string | null;
  rate: number | null;
  rateOn: string | null;
}

type Amounts = Pick<LotRow, 'price' | 'discount' | 'freight' | 'duty' | 'fees'>;

/** The currency of the house. */
export const houseCurrency = async (lab: Lab, transaction?: Transaction): Promise<string> =>
  found(
    await lab.store.settings.one({ id: 1 }, transaction ? { transaction } : {}),
    'The lab’s settings',
  ).currency;

/**
 * The currency an order is in. Amounts in another one than the house’s carry the day’s rate they were
 * entered with (handbook, chapter 5, "Money"). @throws LabError where it is missing.
 */
export function orderCurrency(
  { currency, rate }: TypedCurrency,
  house: string,
  amounts: Partial<Amounts>,
): string {
  const own = currency ?? house;
  const { price, discount, freight, duty, fees } = amounts;
  const costs = [price, discount, freight, duty, fees].some((amount) => (amount ?? null) !== null);
  if (own !== house && costs && rate === null)
    throw new LabError('invalid', `Expected what 1 ${own} was worth in ${house}.`, {
      field: 'rate',
    });
  return own;
}

/** Keeps the day’s rate of an order with the books of its lot. */
export async function keepRate(
  lab: Lab,
  {
    lotId,
    rate,
    rateOn,
    personId,
  }: { lotId: number; personId: number } & Omit<TypedCurrency, 'currency'>,
  transaction: Transaction,
): Promise<void> {
  const { books } = lab.store;
  const before = await books.one({ lotId }, { transaction });
  if ((before?.rate ?? null) === rate && (before?.rateOn ?? null) === rateOn) return;
  const after = { rate, rateOn, personId, at: lab.now() };
  if (before)
    await books.update({ ...after, version: before.version + 1 }, { id: before.id }, transaction);
  else {
    const { version: _version, ...untold } = UNTOLD;
    await books.insert({ ...untold, lotId, ...after }, transaction);
  }
}

/**
 * An amount in the house’s currency. @throws LabError where it is in another one and the day’s rate is
 * missing.
 */
export async function inHouse(
  lab: Lab,
  { cents, currency, rate }: { cents: Cents | null } & Pick<TypedCurrency, 'currency' | 'rate'>,
  transaction?: Transaction,
): Promise<{ cents: Cents | null; isForeign: boolean }> {
  const house = await houseCurrency(lab, transaction);
  const isForeign = currency !== null && currency !== house && cents !== null;
  if (!isForeign) return { cents, isForeign };
  if (rate === null)
    throw new LabError('invalid', `Expected what 1 ${currency} was worth in ${house}.`, {
      field: 'rate',
    });
  return { cents: inHouseCents(cents, rate), isForeign };
}
