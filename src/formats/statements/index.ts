export * from './record';
export * from './recognise';
