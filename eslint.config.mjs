import js from '@eslint/js';
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
  { files: ['**/*.config.ts', '**/*.d.ts'], rules: { 'no-restricted-syntax': 'off' } },
  { files: ['**/*.mjs'], languageOptions: { globals: globals.node } },
  {
    files: ['apps/web/**/*.tsx', 'apps/web/**/use*.ts'],
    plugins: { 'react-hooks': hooks },
    rules: { 'react-hooks/rules-of-hooks': 'error', 'react-hooks/exhaustive-deps': 'warn' },
  },
  {
    files: ['packages/core/src/values/**/*.ts'],
    rules: floors('shape', 'language', 'expressions', 'storage', 'indexes', 'planner', 'execution', 'engine'),
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
  { files: ['packages/core/src/expressions/**/*.ts'], rules: floors('storage', 'indexes', 'planner', 'execution', 'engine') },
  { files: ['packages/core/src/storage/**/*.ts', 'packages/core/src/indexes/**/*.ts'], rules: floors('planner', 'execution', 'engine') },
  { files: ['packages/core/src/planner/**/*.ts'], rules: floors('execution', 'engine') },
  { files: ['packages/core/src/execution/**/*.ts'], rules: floors('engine') },
);
