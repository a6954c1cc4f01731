import { CHEMISTRY_PROFILES } from '@dusk-tally/core/chemistry';
import { describe, expect, it } from 'vitest';
import { emptyLot, readLot } from '@/features/arrivals/lot-draft';
import { lotFromOffer } from '@/features/arrivals/lot-from-offer';

const SUPPLIERS = [{ id: 3, name: 'Marl Cells' }];
const context = {
  models: [],
  profiles: Object.values(CHEMISTRY_PROFILES),
  today: '2026-11-27',
};
const OFFER = {
  text: '240 pcs 32700 LFP 6 Ah, AC <= 6 mOhm, 145 g, dispute within 15 days, 1,360.00 USD',
  supplierId: 3,
  modelId: null,
  chemistry: 'LFP',
  sizeCode: '32700',
  claimedAh: 6,
  massG: 145,
  cells: 240,
  price: 1360,
  currency: 'USD',
  rate: 0.92,
};

describe('a lot from an offer that was looked at', () => {
  it('is typed in whole but for its name', () => {
    const lot = lotFromOffer(OFFER, emptyLot(false), SUPPLIERS);
    const named = { ...lot, title: 'Cans', model: { ...lot.model, name: 'Q32700' } };
    const read = readLot(named, context, '0b9f6a52-3f83-4b7e-8b93-9b1d1f6f2b11');
    expect(read).toMatchObject({
      input: {
        supplierName: 'Marl Cells',
        orderedQuantity: 240,
        price: 1360,
        currency: 'USD',
        rate: 0.92,
        rateOn: '2026-11-27',
        offer: OFFER.text,
        model: { chemistry: 'LFP', format: 'cylinder', diameterMm: 32, heightMm: 70, ratedAh: 6 },
      },
    });
    const { claim } = (read as { input: { claim: { kind: string; value?: number }[] } }).input;
    expect(Object.fromEntries(claim.map(({ kind, value }) => [kind, value]))).toMatchObject({
      capacity: 6,
      acResistance: 6,
      mass: 145,
      quantity: 240,
      disputeWindow: 15,
    });
  });

  it('takes a model of ours, and nothing that was not said', () => {
    const lot = lotFromOffer({ modelId: 7, claimedAh: 104 }, emptyLot(true), SUPPLIERS);
    expect(lot).toMatchObject({
      modelId: '7',
      supplierName: '',
      price: '',
      currency: '',
      rate: null,
      orderedQuantity: '',
    });
    expect(lot.claim.capacity!.value).toBe('104');
    expect(lot.claim.acResistance!.value).toBe('');
  });
});
