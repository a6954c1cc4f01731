export * from './channel-driver';
export * from './scpi-channel';
