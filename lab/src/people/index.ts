export * from './people';
export * from './demo-people';
