export * from './budget-kinds';
export * from './figure';
export * from './combine-budget';
export * from './format';
export * from './parse-quantity';
export * from './canonical-json';
export * from './improve';
