import js from '@eslint/js';
import prettier from 'eslint-config-prettier';
import vue from 'eslint-plugin-vue';
import globals from 'globals';
import ts from 'typescript-eslint';

const NO_OTHER_DECODER = {
  selector: "NewExpression[callee.name='TextDecoder']",
  message: 'Decode by @fastigium/core/text, which is right about windows-1252.',
};

/** What people read stands in catalogues (`words.en.json`). */
const WORDS = 'Words that people read stand in a catalogue: say them by their key.';
// Grid tracks are as many words, and none.
const OF_SEVERAL = '/^(?!.*minmax\\()[^]*[a-z]{2,}[,;.]? [a-z]{2,}/i';
const NO_WORDS = [
  // A code that is compared, or named by a list, is none.
  { selector: `Literal[value=${OF_SEVERAL}]:not(.key):not(BinaryExpression > Literal)`, message: WORDS },
  { selector: `TemplateElement[value.raw=${OF_SEVERAL}]`, message: WORDS },
  // Names of keys are no words.
  {
    selector:
      'Literal[value=/^(?!Enter$|Escape$|Delete$|Arrow|Home$|End$|Tab$|Space$|Backspace$|Page|Fastigium$)[A-Z][a-z]+$/]',
    message: WORDS,
  },
];

const ONE_WAY_OUT = 'Everything goes out over adapters/web/http.ts.';

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
      'no-restricted-syntax': ['error', NO_OTHER_DECODER],
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
  {
    files: ['apps/web/src/**'],
    ignores: ['apps/web/src/testing/**'],
    rules: { 'no-restricted-syntax': ['error', NO_OTHER_DECODER, ...NO_WORDS] },
  },
  {
    files: ['apps/web/src/**/*.vue'],
    rules: {
      'vue/no-restricted-syntax': ['error', ...NO_WORDS],
      // An example of what is written there is none: an address, a path.
      'vue/no-restricted-static-attribute': [
        'error',
        { key: 'placeholder', value: '/[a-z]{2,} [a-z]{2,}/i', message: WORDS },
      ],
      'vue/no-bare-strings-in-template': [
        'error',
        {
          attributes: {
            '/.+/': ['title', 'aria-label', 'label', 'hint', 'waiting', 'bench-label', 'search-label', 'alt'],
          },
          directives: ['v-text'],
          allowlist: [
            '(',
            ')',
            ',',
            '.',
            '…',
            '·',
            '└',
            '›',
            '‹',
            '→',
            '–',
            '—',
            ':',
            ';',
            '/',
            '“',
            '”',
            '+',
            '−',
            '%',
            '×',
            '?',
            '*',
            'px',
          ],
        },
      ],
    },
  },
  {
    files: ['apps/server/src/**/*.ts'],
    ignores: ['apps/server/src/adapters/web/http.ts', '**/*.test.ts'],
    rules: {
      'no-restricted-globals': ['error', { name: 'fetch', message: ONE_WAY_OUT }],
      'no-restricted-imports': [
        'error',
        {
          paths: [
            { name: 'undici', message: ONE_WAY_OUT },
            { name: 'node:http', importNames: ['request', 'get', 'Agent'], message: ONE_WAY_OUT },
            { name: 'node:https', importNames: ['request', 'get'], message: ONE_WAY_OUT },
          ],
        },
      ],
    },
  },
  // There it is made; and tests hold it against the platform's.
  {
    files: ['packages/core/src/text/index.ts', '**/*.test.ts', '**/tests/**', 'corpus/**', 'apps/standins/**'],
    rules: { 'no-restricted-syntax': 'off' },
  },
  { files: ['apps/web/src/app/App.vue', 'demo/**', 'bench/**', 'scripts/**'], rules: { 'no-console': 'off' } },
);
