export * from './suppliers';
