export * from './iso-2859';
export * from './hypergeometric';
export * from './risk-plan';
export * from './operating-curve';
export * from './draw-sample';
export * from './plan';
export * from './sequential';
