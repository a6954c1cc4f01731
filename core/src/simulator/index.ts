export * from './ocv';
export * from './cell-model';
export * from './record-discharge';
export * from './record-charge';
export * from './record-string';
