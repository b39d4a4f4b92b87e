/** Unit tests run on the sources; server tests start the built server. */
const swc = ['@swc/jest', { jsc: { target: 'es2022', parser: { syntax: 'ecmascript' } }, module: { type: 'commonjs' } }];
/** Libraries that are modules alone, which Jest cannot take as they are. */
const modulesAlone = 'kdbush|geokdbush|tinyqueue';
const transform = {
  [`node_modules/(${modulesAlone})/.+\\.js$`]: swc,
  '^.+\\.tsx?$': [
    '@swc/jest',
    {
      jsc: { target: 'es2022', parser: { syntax: 'typescript', tsx: true }, transform: { react: { runtime: 'automatic' } } },
      module: { type: 'commonjs' },
    },
  ],
};
const moduleNameMapper = {
  '^@zesty-sieve/core$': '<rootDir>/packages/core/src/index.ts',
  '^@zesty-sieve/core/language$': '<rootDir>/packages/core/src/language/index.ts',
  '^@zesty-sieve/client$': '<rootDir>/packages/client/src/index.ts',
  '^@zesty-sieve/contract$': '<rootDir>/packages/contract/src/index.ts',
};
const project = (displayName, roots) => ({
  displayName,
  rootDir: import.meta.dirname,
  roots,
  testMatch: ['**/*.test.ts', '**/*.test.tsx'],
  testEnvironment: 'node',
  transform,
  moduleNameMapper,
  transformIgnorePatterns: [`/node_modules/(?!(${modulesAlone})/)`],
  setupFiles: ['<rootDir>/tests/seeds.ts'],
  extensionsToTreatAsEsm: [],
});

export default {
  projects: [
    project('core', ['<rootDir>/packages/core']),
    project('server', ['<rootDir>/apps/server', '<rootDir>/demo']),
    project('ask', ['<rootDir>/apps/ask']),
    project('web', ['<rootDir>/apps/web']),
    project('torture', ['<rootDir>/tests/torture']),
    project('sql', ['<rootDir>/tests/sql']),
  ],
  testTimeout: 60_000,
};
