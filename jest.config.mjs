const transform = {
  '^.+\\.(ts|tsx)$': [
    '@swc/jest',
    {
      jsc: {
        target: 'es2022',
        parser: { syntax: 'typescript', tsx: true },
        transform: { react: { runtime: 'automatic' } },
      },
      module: { type: 'es6' },
    },
  ],
};
const project = (displayName, testMatch, more = {}) => ({
  displayName,
  testMatch,
  transform,
  extensionsToTreatAsEsm: ['.ts', '.tsx'],
  testEnvironment: 'node',
  setupFilesAfterEnv: ['<rootDir>/scripts/test-setup.mjs'],
  ...more,
});
const withCluster = { globalSetup: '<rootDir>/scripts/test-cluster.mjs' };

export default {
  projects: [
    project('core', ['<rootDir>/{contract,core,demo,web}/**/*.test.ts?(x)']),
    project('server', ['<rootDir>/server/**/*.test.ts'], withCluster),
    project('e2e', ['<rootDir>/e2e/**/*.test.ts'], withCluster),
  ],
};
