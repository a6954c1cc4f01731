export * from './agent-settings';
export * from './agent';
export * from './app-client';
export * from './journal';
