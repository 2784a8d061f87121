export default {
  // Ends a test that hangs; a machine that has much else to do needs many times what it needs alone.
  testTimeout: 240_000,
  projects: [
    'packages/engine',
    'packages/contract',
    'packages/kit',
    'packages/offline',
    'packages/cli',
    'apps/studio',
    'demo',
    'e2e',
  ].map((folder) => `<rootDir>/${folder}/jest.config.mjs`),
};
