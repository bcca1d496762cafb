import js from '@eslint/js';
import prettier from 'eslint-config-prettier';
import vue from 'eslint-plugin-vue';
import globals from 'globals';
import ts from 'typescript-eslint';

export default ts.config(
  {
    ignores: [
      '**/dist/',
      '**/dist-tests/',
      '**/node_modules/',
      '.fastigium/',
      'demo/lanternmoor/site/',
      'packages/core/testdata/',
      'test-results/',
      'playwright-report/',
      // Copies of what is looked at where it stands.
      'apps/web/lint/',
    ],
  },
  js.configs.recommended,
  ...ts.configs.recommended,
  ...vue.configs['flat/recommended'],
  prettier,
  {
    languageOptions: { globals: { ...globals.node } },
    rules: {
      'no-console': ['error', { allow: ['error'] }],
      eqeqeq: ['error', 'always', { null: 'ignore' }],
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      '@typescript-eslint/consistent-type-imports': ['error', { fixStyle: 'inline-type-imports' }],
      'no-restricted-syntax': [
        'error',
        {
          selector: "NewExpression[callee.name='TextDecoder']",
          message: 'Decode by @fastigium/core/text, which is right about windows-1252.',
        },
      ],
      // Names of control characters are looked for on purpose.
      'no-control-regex': 'off',
    },
  },
  {
    files: ['**/*.vue'],
    languageOptions: { parserOptions: { parser: ts.parser }, globals: globals.browser },
    rules: {
      'vue/max-attributes-per-line': 'off',
      'vue/no-v-html': 'error',
      'vue/attributes-order': 'off',
      'vue/require-default-prop': 'off',
      'vue/one-component-per-file': 'error',
      'no-undef': 'off',
    },
  },
  { files: ['apps/web/**/*.ts'], languageOptions: { globals: globals.browser } },
  // There it is made; and tests hold it against the platform's.
  {
    files: ['packages/core/src/text/index.ts', '**/*.test.ts', '**/tests/**', 'corpus/**', 'apps/standins/**'],
    rules: { 'no-restricted-syntax': 'off' },
  },
  { files: ['apps/web/src/app/App.vue', 'demo/**', 'bench/**', 'scripts/**'], rules: { 'no-console': 'off' } },
);
