export * from './due';
export * from './pictures';
export * from './protocols';
export * from './rests';
export * from './shelf';
