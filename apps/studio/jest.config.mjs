import { shared } from '../../jest.shared.mjs';

export default {
  ...shared,
  displayName: 'studio',
  globalSetup: '<rootDir>/tests/bundle-workers.ts',
  moduleNameMapper: {
    // Jest does not load ES modules from packages; the same parser in its CommonJS form.
    '^csv-parse/browser/esm/sync$': 'csv-parse/sync',
    // Worker threads are found by the bundler; here they are bundled by the stand-in.
    '/workers/spawn$|^\\./spawn$': '<rootDir>/tests/spawn.ts',
    '^@/(.*)$': '<rootDir>/src/$1',
  },
};
