export * from './operations';
