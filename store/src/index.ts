export { Op, QueryTypes } from 'sequelize';
export * from './connection';
export * from './rows';
export * from './arrivals-rows';
export * from './meters-rows';
export * from './bench-rows';
export * from './holds-tables';
export * from './store';
export type { NewRow } from './table';
