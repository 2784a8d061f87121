export * from './starting-themes.ts';
export * from './schema.ts';
export * from './style.ts';
export * from './tokens.ts';
