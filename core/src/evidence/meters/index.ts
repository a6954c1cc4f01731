export * from './agreement';
export * from './calibration';
export * from './channel-effects';
export * from './control-chart';
export * from './gauge-study';
export * from './joint-fit';
export * from './shrink';
