/** What every workspace's tests have in common. */
export const shared = {
  testEnvironment: 'node',
  // The built kit has the name of its source.
  modulePathIgnorePatterns: ['/dist/'],
  testEnvironmentOptions: { globalsCleanup: 'on' },
  transform: {
    '^.+\\.tsx?$': [
      '@swc/jest',
      {
        jsc: {
          parser: { syntax: 'typescript', tsx: true },
          target: 'es2022',
          transform: { react: { runtime: 'automatic' } },
        },
        module: { type: 'commonjs' },
      },
    ],
  },
};
