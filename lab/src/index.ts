export * from './open-lab';
export * from './shared';
