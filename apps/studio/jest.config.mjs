import { shared } from '../../jest.shared.mjs';

export default {
  ...shared,
  displayName: 'studio',
  moduleNameMapper: {
    // Worker threads are found by the bundler; here they are bundled by the stand-in.
    '/workers/spawn$|^\\./spawn$': '<rootDir>/tests/spawn.ts',
    '^@/(.*)$': '<rootDir>/src/$1',
  },
};
