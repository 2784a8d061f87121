import { shared } from '../../jest.shared.mjs';

export default {
  ...shared,
  displayName: 'kit',
  setupFilesAfterEnv: ['<rootDir>/tests/patience.ts'],
  moduleNameMapper: {
    // A build fetches it; here everything is there.
    'small/more\\.ts$': '<rootDir>/tests/nothing-more.ts',
    // The bundler makes a text of it.
    // The bundler makes a text of it.
    '\\.css$': '<rootDir>/tests/styles.ts',
  },
};
