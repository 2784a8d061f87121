import { shared } from '../../jest.shared.mjs';

export default {
  ...shared,
  displayName: 'kit',
  // The bundler makes a text of it.
  moduleNameMapper: { '\\.css$': '<rootDir>/tests/styles.ts' },
};
