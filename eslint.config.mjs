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
  { files: ['packages/core/src/language/**/*.ts'], rules: floors('expressions', 'storage', 'indexes', 'planner', 'execution', 'engine') },
  { files: ['packages/core/src/expressions/**/*.ts'], rules: floors('storage', 'indexes', 'planner', 'execution', 'engine') },
  { files: ['packages/core/src/storage/**/*.ts', 'packages/core/src/indexes/**/*.ts'], rules: floors('planner', 'execution', 'engine') },
  { files: ['packages/core/src/planner/**/*.ts'], rules: floors('execution', 'engine') },
  { files: ['packages/core/src/execution/**/*.ts'], rules: floors('engine') },
);
