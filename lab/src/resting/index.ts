export * from './due';
export * from './rests';
export * from './shelf';
