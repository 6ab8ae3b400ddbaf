export * from './command';
export * from './refusal';
export * from './refusal-words';
