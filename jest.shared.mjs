import path from 'node:path';

/** Packages that are there as ES modules alone, which Jest does not load as they are. */
const MODULES_ONLY = [
  ...['htmlparser2', 'domhandler', 'domutils', 'dom-serializer', 'domelementtype', 'entities', 'marked'],
  ...['hyparquet', 'fzstd', 'csv-parse/dist/esm'],
].join('|');

const compiled = (parser) => ({
  jsc: { parser, target: 'es2022', transform: { react: { runtime: 'automatic' } } },
  module: { type: 'commonjs' },
});

/** What every workspace's tests have in common. */
export const shared = {
  testEnvironment: 'node',
  setupFiles: [path.join(import.meta.dirname, 'jest.seed.ts')],
  // The built kit has the name of its source.
  modulePathIgnorePatterns: ['/dist/'],
  testEnvironmentOptions: { globalsCleanup: 'on' },
  transform: {
    '^.+\\.tsx?$': ['@swc/jest', compiled({ syntax: 'typescript', tsx: true })],
    [`/node_modules/(${MODULES_ONLY})/.+\\.js$`]: ['@swc/jest', compiled({ syntax: 'ecmascript' })],
  },
  transformIgnorePatterns: [`/node_modules/(?!(${MODULES_ONLY})/)`],
};
