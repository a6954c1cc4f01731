export * from './accounts';
export * from './password-rules';
export * from './people';
export * from './report-mark';
export * from './settings';
export * from './sign-in';
export * from './demo-people';
export * from './widths';
