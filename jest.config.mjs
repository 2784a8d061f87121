export default {
  projects: ['packages/engine', 'packages/contract', 'packages/kit', 'packages/cli', 'apps/studio', 'demo', 'e2e'].map(
    (folder) => `<rootDir>/${folder}/jest.config.mjs`,
  ),
};
