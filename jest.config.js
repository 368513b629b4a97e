/** Native ESM throughout; three projects, run together by bin/test. */
const shared = {
  testEnvironment: 'node',
  extensionsToTreatAsEsm: ['.ts', '.tsx'],
  transform: {
    '^.+\\.tsx?$': [
      '<rootDir>/ops/jestTransform.mjs',
      {
        jsc: {
          parser: { syntax: 'typescript', tsx: true },
          transform: { react: { runtime: 'automatic' } },
          target: 'es2022',
          experimental: { keepImportAttributes: true },
        },
        module: { type: 'es6' },
      },
    ],
  },
  moduleNameMapper: { '^~/(.*)$': '<rootDir>/$1' },
  modulePathIgnorePatterns: ['<rootDir>/web/.next', '<rootDir>/.data', '<rootDir>/.cache'],
  testPathIgnorePatterns: ['/node_modules/'],
};

const project = (name, roots) => ({
  ...shared,
  displayName: name,
  rootDir: import.meta.dirname,
  roots: roots.map((root) => `<rootDir>/${root}`),
  testMatch: ['**/*.test.ts', '**/*.test.tsx'],
});

export default {
  testTimeout: 240_000,
  testSequencer: './ops/longestFirst.mjs',
  projects: [
    project('unit', ['core', 'schemas', 'web', 'demo', 'standin', 'ops']),
    project('store', ['store', 'service']),
    { ...project('e2e', ['e2e']), setupFilesAfterEnv: ['<rootDir>/e2e/endAllStarted.ts'] },
  ],
};
