export * from './accounts';
export * from './password-rules';
export * from './people';
export * from './sign-in';
export * from './demo-people';
