export * from './ageing';
export * from './bill';
export * from './invoice';
export * from './recurring';
export * from './settle';
export * from './terms';
