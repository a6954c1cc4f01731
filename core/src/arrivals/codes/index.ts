export * from './calendar';
export * from './gbt-34014';
export * from './template';
export * from './read-code';
export * from './summarise-codes';
