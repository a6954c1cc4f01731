import { describe, expect, it } from 'vitest';
import { readOffer } from '../src/arrivals';

const read = (text: string) =>
  Object.fromEntries(readOffer(text).map(({ kind, value, text: words }) => [kind, value ?? words]));

describe('an offer’s text', () => {
  it.each([
    ['32 pcs, 1,360.00 EUR', 1360, 'EUR'],
    ['Preis 1.360 € für alle', 1360, 'EUR'],
    ['EUR 1360', 1360, 'EUR'],
    ['1 360,50 euro', 1360.5, 'EUR'],
    ['US$2.10 / pc, 100 pcs', 210, 'USD'],
    ['100 cells at USD 2.10 each', 210, 'USD'],
    ['£12.5 a piece; 8 cells', 100, 'GBP'],
    ['100 pcs at $2.10 each, 205.00 USD for all', 205, 'USD'],
    ['12000 RMB', 12_000, 'CNY'],
    ["CHF 1'250.00", 1250, 'CHF'],
  ])('names a price and its currency: %s', (text, price, currency) => {
    expect(read(text)).toMatchObject({ price, currency });
  });

  it.each([
    'ALL 32 cells of 104 Ah',
    'price 1e999 EUR',
    'TOP 10 quality',
    '104 Ah LFP',
    'model EURO-2024',
    '0.00 EUR',
  ])('names none: %s', (text) => {
    expect(read(text)).not.toHaveProperty('price');
  });

  it('leaves a price a piece open as long as no cells are named, and still tells the currency', () => {
    expect(read('2.10 USD per cell')).not.toHaveProperty('price');
    expect(read('2.10 USD per cell')).toMatchObject({ currency: 'USD' });
  });

  it.each([
    ['AC <= 6 mOhm', { acResistance: 6 }],
    ['AC impedance ≤0.5mohm', { acResistance: 0.5 }],
    ['IR 22 mOHM', { acResistance: 22 }],
    ['dispute within 15 days', { disputeWindow: 15 }],
    ['disputes accepted for 15 days', { disputeWindow: 15 }],
    ['15 days to dispute', { disputeWindow: 15 }],
    ['30-day returns', {}],
    ['30 days return', { disputeWindow: 30 }],
    ['Returns within 14 days.', { disputeWindow: 14 }],
  ])('is read for what it says of the cells and the terms: %s', (text, expected) => {
    expect(read(text)).toMatchObject(expected);
  });

  it('takes no part of a number for the number', () => {
    for (const text of ['1e999 Ah', '1e9 g', '2e5 mOhm']) expect(readOffer(text)).toEqual([]);
    // Megohms are not milliohms.
    expect(readOffer('isolation 6 MOhm')).toEqual([]);
  });

  it('of two sayings takes the first, once', () => {
    const windows = readOffer('returns within 14 days; 30 days dispute').filter(
      ({ kind }) => kind === 'disputeWindow',
    );
    expect(windows).toHaveLength(1);
  });
});
