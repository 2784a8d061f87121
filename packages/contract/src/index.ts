export * from './collection.ts';
export * from './key.ts';
export * from './limits.ts';
export * from './names.ts';
export * from './problem.ts';
export * from './search.ts';
export * from './task.ts';
export * from './tuning.ts';
