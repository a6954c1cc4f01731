import { type OfferHint, readOffer } from '@dusk-tally/core/arrivals';
import {
  claimPlausibility,
  type Envelope,
  envelopeOfSizeCode,
  type Plausibility,
} from '@dusk-tally/core/chemistry';
import type { Cents } from '@dusk-tally/core/money';
import {
  expectedCost,
  type ExpectedCost,
  expectedYield,
  type ExpectedYield,
  type SampleTells,
  type SupplierShare,
  supplierShares,
  whatSamplesTell,
  worthPaying,
} from '@dusk-tally/core/suppliers';
import { z } from 'zod';
import { offerInput } from '../inputs';
import { envelopeOf, inHouse, profileOf } from '../lots';
import { found, type Lab, question } from '../shared';
import { type LotRecord, lotRecords, yieldOf } from './lot-records';

/** Similar claims and what they turned out to be. */
export interface SimilarClaims {
  /** Of whom and what, in words. */
  of: string;
  lots: number;
  share: SupplierShare | null;
  expected: ExpectedYield | null;
  /** The price is reckoned with these. */
  isReckonedWith: boolean;
}

/** An offer, looked at before anything is bought. */
export interface OfferCheck {
  plausibility: Plausibility;
  claimedKwh: number;
  /** By this supplier, of this chemistry, and of all; the narrowest with lots first. */
  similar: SimilarClaims[];
  cost: ExpectedCost | null;
  /** What we would pay at the lab’s target; null without one, or without any lot. */
  worthCents: Cents | null;
  targetCents: Cents | null;
  samples: SampleTells[];
  currency: string;
  /** The currency it is offered in, and what one of it is worth in the house’s; null where that is the house’s. */
  paidIn: { currency: string; rate: number } | null;
}

/** What an offer’s text says, for a form to be filled with. */
export const offerHints = question({
  role: 'technician',
  input: z.object({ text: z.string().max(60_000) }),
  run: (_lab, { text }): Promise<OfferHint[]> => Promise.resolve(readOffer(text)),
});

async function envelopeFor(
  lab: Lab,
  { modelId, sizeCode }: z.output<typeof offerInput>,
): Promise<{ envelope: Envelope | null; massG: number | null }> {
  if (modelId !== null) {
    const model = found(await lab.store.cellModels.one({ id: modelId }), 'That model');
    return { envelope: envelopeOf(model), massG: model.massG };
  }
  return { envelope: sizeCode === null ? null : envelopeOfSizeCode(sizeCode), massG: null };
}

const yields = (lots: readonly LotRecord[]): number[] => lots.flatMap((lot) => yieldOf(lot) ?? []);

/** What claims like this turned out to be, from the narrowest group that has lots to all of them. */
function similarClaims(
  lots: readonly LotRecord[],
  supplier: { id: number; name: string } | null,
  chemistry: LotRecord['chemistry'],
): SimilarClaims[] {
  const bySupplier = new Map<number, LotRecord[]>();
  for (const lot of lots)
    bySupplier.set(lot.supplierId, [...(bySupplier.get(lot.supplierId) ?? []), lot]);
  const all = yields(lots);
  const told = (
    of: string,
    some: readonly LotRecord[],
    share: SupplierShare | null,
    own: readonly LotRecord[] = some,
  ): SimilarClaims => ({
    of,
    lots: some.length,
    share,
    expected: some.length > 0 ? expectedYield(yields(own), all) : null,
    isReckonedWith: false,
  });
  const groups = [...bySupplier];
  const { shares } = supplierShares(groups.map(([, own]) => own));
  const result: SimilarClaims[] = [];
  if (supplier) {
    const at = groups.findIndex(([id]) => id === supplier.id);
    result.push(told(supplier.name, groups[at]?.[1] ?? [], at < 0 ? null : (shares[at] ?? null)));
  }
  const [alike, everything] = [lots.filter((lot) => lot.chemistry === chemistry), lots];
  // A group as a whole is one more “supplier” without a prior of its own.
  const shareOf = (some: readonly LotRecord[]) => supplierShares([some]).shares[0] ?? null;
  if (chemistry && alike.length > 0) result.push(told(`all ${chemistry}`, alike, shareOf(alike)));
  // A supplier without lots of its own is expected to be as all are: no lot of them is its own.
  result.push(told('all suppliers', everything, shareOf(everything), []));
  const used = supplier && result[0]!.lots > 0 ? result[0]! : result.at(-1)!;
  return result.map((one) => ({ ...one, isReckonedWith: one === used && one.lots > 0 }));
}

/** Whether an offer can be true, what such claims turned out to be, and what it is worth. */
export const checkOffer = question({
  role: 'technician',
  input: offerInput,
  run: async (lab, offer): Promise<OfferCheck> => {
    const [profile, size, records, settings, supplier] = await Promise.all([
      profileOf(lab, offer.chemistry),
      envelopeFor(lab, offer),
      lotRecords(lab),
      lab.store.settings.one({ id: 1 }),
      offer.supplierId === null ? null : lab.store.suppliers.one({ id: offer.supplierId }),
    ]);
    if (offer.supplierId !== null) found(supplier, 'That supplier');
    const { currency, targetCentsPerKwh } = found(settings, 'The lab’s settings');
    const lots = records.filter(({ judged, tested }) => judged + tested > 0);
    const claimedKwh = (offer.cells * offer.claimedAh * profile.nominalV) / 1000;
    const similar = similarClaims(lots, supplier, offer.chemistry);
    const expected = similar.find(({ isReckonedWith }) => isReckonedWith)?.expected ?? null;
    const { currency: own, rate } = offer;
    const [price, besides] = await Promise.all(
      [offer.price, offer.beside].map((cents) => inHouse(lab, { cents, currency: own, rate })),
    );
    const beside = besides!.cents ?? 0;
    const share = similar.find(({ share: one }) => one !== null)?.share?.share ?? 0.5;
    return {
      plausibility: claimPlausibility({
        ratedAh: offer.claimedAh,
        chemistry: offer.chemistry,
        envelope: size.envelope,
        massG: offer.massG ?? size.massG,
        profile,
      }),
      claimedKwh,
      similar,
      cost:
        !price!.cents || expected === null
          ? null
          : expectedCost(price!.cents + beside, claimedKwh, expected),
      paidIn: price!.isForeign && rate !== null ? { currency: own!, rate } : null,
      worthCents:
        targetCentsPerKwh === null || expected === null
          ? null
          : worthPaying(targetCentsPerKwh, claimedKwh, expected.good, beside),
      targetCents: targetCentsPerKwh,
      samples: whatSamplesTell(offer.cells, share),
      currency,
    };
  },
});
