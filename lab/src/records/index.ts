export * from './earlier-lots';
export * from './lot-records';
export * from './offer-check';
export * from './supplier-records';
