export * from './tables';
export * from './holds-tables';
export * from './grade-tables';
