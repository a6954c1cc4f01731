export * from './agent';
export * from './app-client';
export * from './journal';
