/** Rules that know the types, and nothing else: they take a program of TypeScript each, so they run beside the others. */
import ts from 'typescript-eslint';

export default ts.config(
  { ignores: ['**/dist/', '**/dist-tests/', '**/node_modules/', '.fastigium/', '**/*.d.ts'] },
  {
    files: ['**/*.ts'],
    // Of no program that is checked with its types.
    ignores: ['apps/web/vite.config.ts', 'packages/core/generate/**', 'scripts/**'],
    plugins: { '@typescript-eslint': ts.plugin },
    languageOptions: {
      parser: ts.parser,
      parserOptions: {
        project: ['tsconfig.json', 'apps/web/tsconfig.json', 'apps/web/lint/tsconfig.json'],
        tsconfigRootDir: import.meta.dirname,
      },
    },
    linterOptions: { reportUnusedDisableDirectives: false },
    rules: {
      // What may fail is waited for, or says what becomes of its failure.
      '@typescript-eslint/no-floating-promises': ['error', { ignoreVoid: false }],
      '@typescript-eslint/no-misused-promises': ['error', { checksVoidReturn: { attributes: false } }],
      '@typescript-eslint/await-thenable': 'error',
      '@typescript-eslint/prefer-promise-reject-errors': 'error',
      '@typescript-eslint/only-throw-error': 'error',
      '@typescript-eslint/no-base-to-string': 'error',
      '@typescript-eslint/restrict-template-expressions': ['error', { allowNumber: true, allowNullish: true }],
      '@typescript-eslint/switch-exhaustiveness-check': ['error', { considerDefaultExhaustiveForUnions: true }],
    },
  },
);
