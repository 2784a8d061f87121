export default {
  projects: ['packages/engine', 'packages/contract', 'packages/kit', 'apps/studio', 'demo', 'e2e'].map(
    (folder) => `<rootDir>/${folder}/jest.config.mjs`,
  ),
};
