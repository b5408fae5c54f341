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
const shown = (name) => `<rootDir>/server/dist/in-tests/${name}.mjs`;
// Tests see the server as it is built, loaded once by each process that runs them: from source every file would load it anew.
const asBuilt = {
  testEnvironment: '<rootDir>/scripts/test-environment.mjs',
  moduleNameMapper: {
    '^@gremium/(contract|core|server)$': shown('$1'),
    '^(\\.\\./)+demo/(make|accounts)$': shown('$2'),
  },
};
// Those that bring sections of their own: their workers load them from source.
const fromSource = ['house'].map((name) => `<rootDir>/server/test/${name}.test.ts`);

export default {
  testSequencer: '<rootDir>/scripts/test-sequencer.mjs',
  projects: [
    project('core', ['<rootDir>/{contract,core,demo,web}/**/*.test.ts?(x)'], {
      globalSetup: '<rootDir>/scripts/test-build.mjs',
      ...asBuilt,
    }),
    project('server', ['<rootDir>/server/**/*.test.ts'], {
      testPathIgnorePatterns: ['/node_modules/', ...fromSource],
      ...withCluster,
      ...asBuilt,
    }),
    project('source', fromSource, withCluster),
    project('e2e', ['<rootDir>/e2e/**/*.test.ts'], {
      globalSetup: '<rootDir>/scripts/test-pages.mjs',
      ...asBuilt,
    }),
  ],
};
