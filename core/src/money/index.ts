export { type Cents, centsOf, centsText, roundedCents, splitCents } from './cents';
export * from './beside';
export * from './lot-cost';
export * from './payback';
export * from './remedies';
