export { QueryTypes } from 'sequelize';
export * from './connection';
export * from './errors';
export * from './session';
export * from './table';
export * from './tables';
export * from './where';
