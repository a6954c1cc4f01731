export * from './suppliers';
export * from './take-in';
