export default {
  // Only ends a test that hangs, and stands here for all: a machine that has much else to do needs ten times what it
  // needs alone. A file says its own only where its work is set from outside.
  testTimeout: 1_200_000,
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
