export { type Cents, centsOf, centsText, centsTimes, roundedCents, splitCents } from './cents';
export * from './beside';
export * from './grounds';
export * from './lot-cost';
export * from './payback';
export * from './remedies';
