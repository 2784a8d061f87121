/** What every workspace's tests have in common. */
export const shared = {
  testEnvironment: 'node',
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
