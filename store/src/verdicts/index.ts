export * from './tables';
export * from './holds-tables';
