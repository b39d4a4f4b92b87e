import js from '@eslint/js';
import { importX } from 'eslint-plugin-import-x';
import a11y from 'eslint-plugin-jsx-a11y';
import hooks from 'eslint-plugin-react-hooks';
import globals from 'globals';
import ts from 'typescript-eslint';

const floors = (...above) => ({
  'no-restricted-imports': [
    'error',
    { patterns: above.map((name) => ({ group: [`**/${name}/**`], message: 'A floor imports only from the floors below it.' })) },
  ],
});

/** Refuses to read, print or complete a text by a face directly. */
const noDirectFace = {
  create: (context) => ({
    ImportDeclaration(node) {
      if (
        /surfaces\/\w+\/(parsePipeline|printPipeline|complete|notation)\.ts$/.test(node.source.value) &&
        node.importKind !== 'type' &&
        !/describeField|fieldAt/.test(context.sourceCode.getText(node))
      )
        context.report({ node, message: 'Ask a surface of the registry: the text may be of another face.' });
    },
  }),
};

/** Refuses tests that keep all others from running, and tests that say nothing. */
const noTestAlone = {
  create: (context) => ({
    MemberExpression(node) {
      if (node.property.name === 'only' && ['test', 'it', 'describe'].includes(node.object.name))
        context.report({ node, message: 'The others would not run.' });
    },
  }),
};

export default ts.config(
  { ignores: ['**/dist/**', '**/dist-types/**', '**/node_modules/**', 'test-results/**', 'coverage/**'] },
  js.configs.recommended,
  ...ts.configs.recommended,
  {
    files: ['**/*.ts', '**/*.tsx'],
    rules: {
      '@typescript-eslint/no-explicit-any': 'error',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      'no-restricted-syntax': ['error', { selector: 'ExportDefaultDeclaration', message: 'Exports have names.' }],
    },
  },
  {
    // A promise that nobody waits for hides what went wrong in it.
    files: ['packages/*/src/**/*.ts', 'apps/*/src/**/*.{ts,tsx}', 'demo/src/**/*.ts', 'tests/*/*.ts'],
    ignores: ['**/*.test.ts'],
    languageOptions: {
      parserOptions: { project: ['packages/*/tsconfig.json', 'apps/*/tsconfig.json', 'demo/tsconfig.json', 'tests/*/tsconfig.json'] },
    },
    plugins: { 'import-x': importX },
    rules: {
      '@typescript-eslint/no-floating-promises': 'error',
      'import-x/no-cycle': ['error', { ignoreExternal: true }],
    },
    settings: {
      'import-x/resolver': { node: { extensions: ['.ts', '.tsx'] } },
      'import-x/parsers': { '@typescript-eslint/parser': ['.ts', '.tsx'] },
    },
  },
  {
    // One idea a file and a function. Longer ones say why in a comment that turns this off.
    files: ['packages/*/src/**/*.ts', 'apps/*/src/**/*.{ts,tsx}', 'demo/src/**/*.ts'],
    ignores: ['**/*.test.ts'],
    rules: {
      'max-lines': ['error', { max: 250 }],
      'max-lines-per-function': ['error', { max: 60, IIFEs: true }],
      'max-params': ['error', { max: 5 }],
    },
  },
  {
    // A list of routes, or of a thread's calls, is one function by the way it is put together; each entry is short.
    files: ['apps/server/src/routes/*.ts', 'apps/server/src/engine/services/*.ts'],
    rules: { 'max-lines-per-function': 'off' },
  },
  {
    // Half of a component is its markup, which reads from top to bottom like a page.
    files: ['apps/web/src/**/*.tsx'],
    rules: { 'max-lines-per-function': ['error', { max: 100, skipBlankLines: true, skipComments: true }] },
  },
  { files: ['**/*.test.ts', 'e2e/*.ts'], plugins: { tests: { rules: { 'no-only': noTestAlone } } }, rules: { 'tests/no-only': 'error' } },
  { files: ['**/*.config.ts', '**/*.d.ts'], rules: { 'no-restricted-syntax': 'off' } },
  { files: ['**/*.mjs'], languageOptions: { globals: globals.node } },
  {
    files: ['apps/web/**/*.tsx', 'apps/web/**/use*.ts'],
    plugins: { 'react-hooks': hooks, 'jsx-a11y': a11y },
    rules: {
      ...a11y.flatConfigs.recommended.rules,
      // A dialog puts the focus into its first field: WAI-ARIA, the dialog pattern.
      'jsx-a11y/no-autofocus': 'off',
      // It does not know aria-description yet, which any role may have in WAI-ARIA 1.3.
      'jsx-a11y/role-supports-aria-props': 'off',
      'react-hooks/rules-of-hooks': 'error',
      'react-hooks/exhaustive-deps': 'error',
    },
  },
  // The server's rooms: formats know nothing of storage and engine, storage nothing of the engine, and routes go through the hub.
  { files: ['apps/server/src/formats/**/*.ts', 'apps/server/src/told/**/*.ts'], rules: floors('storage', 'engine', 'routes', 'http') },
  { files: ['apps/server/src/storage/**/*.ts'], rules: floors('engine', 'routes', 'http') },
  // Screens lean on parts, never on each other.
  { files: ['apps/web/src/parts/**/*.{ts,tsx}', 'apps/web/src/state/**/*.ts', 'apps/web/src/api/**/*.ts'], rules: floors('features') },
  ...['bench', 'data', 'indexes', 'runs'].map((own) => ({
    files: [`apps/web/src/features/${own}/**/*.{ts,tsx}`],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          patterns: ['bench', 'data', 'indexes', 'runs']
            .filter((one) => one !== own)
            .map((one) => ({ regex: `\\.\\./${one}/`, message: 'Screens lean on parts, never on each other.' })),
        },
      ],
    },
  })),
  {
    files: ['packages/core/src/values/**/*.ts'],
    rules: floors('words', 'shape', 'language', 'expressions', 'storage', 'indexes', 'planner', 'execution', 'engine'),
  },
  {
    files: ['packages/core/src/shape/**/*.ts'],
    rules: floors('language', 'expressions', 'storage', 'indexes', 'planner', 'execution', 'engine'),
  },
  {
    // A face of the language is asked through the registry of surfaces; its forms, and the stages' own words, are of the notation.
    files: ['packages/**/*.ts', 'apps/**/*.{ts,tsx}', 'demo/**/*.ts', 'tests/**/*.ts'],
    ignores: ['packages/core/src/language/surfaces/**', 'packages/core/src/language/forms/**'],
    plugins: { house: { rules: { 'no-direct-face': noDirectFace } } },
    rules: { 'house/no-direct-face': 'error' },
  },
  { files: ['packages/core/src/language/**/*.ts'], rules: floors('expressions', 'storage', 'indexes', 'planner', 'execution', 'engine') },
  {
    files: ['packages/core/src/words/**/*.ts'],
    rules: floors('shape', 'language', 'expressions', 'storage', 'indexes', 'planner', 'execution', 'engine'),
  },
  { files: ['packages/core/src/expressions/**/*.ts'], rules: floors('storage', 'indexes', 'planner', 'execution', 'engine') },
  { files: ['packages/core/src/storage/**/*.ts', 'packages/core/src/indexes/**/*.ts'], rules: floors('planner', 'execution', 'engine') },
  { files: ['packages/core/src/planner/**/*.ts'], rules: floors('execution', 'engine') },
  { files: ['packages/core/src/execution/**/*.ts'], rules: floors('engine') },
);
