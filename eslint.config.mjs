import { functionLength } from './scripts/lib/eslint-function-length.mjs';
import reactHooks from 'eslint-plugin-react-hooks';
import tseslint from 'typescript-eslint';

const NAMED_ONLY = { selector: 'ExportDefaultDeclaration', message: 'Named exports only.' };
const KIT_ONLY = {
  selector:
    'JSXOpeningElement[name.name=/^(select|option|input|textarea|table|dialog|details|datalist)$/]',
  message: 'A part of the kit stands for this (web/kit).',
};

export default tseslint.config(
  {
    ignores: [
      '**/node_modules/',
      '**/.next/',
      '**/dist/',
      '.data/',
      'web/next-env.d.ts',
      'test-results/',
    ],
  },
  ...tseslint.configs.recommended,
  {
    rules: {
      '@typescript-eslint/no-explicit-any': 'error',
      '@typescript-eslint/no-non-null-assertion': 'off',
      '@typescript-eslint/no-unused-vars': [
        'error',
        { argsIgnorePattern: '^_', varsIgnorePattern: '^_' },
      ],
      eqeqeq: 'error',
      'no-console': 'off',
    },
  },
  {
    files: ['core/src/**'],
    rules: {
      'no-restricted-globals': ['error', 'process', 'fetch', 'window', 'document', 'localStorage'],
      'no-restricted-properties': [
        'error',
        {
          object: 'Math',
          property: 'random',
          message: 'The core takes a seeded source of randomness.',
        },
        { object: 'Date', property: 'now', message: 'The core does not know the clock.' },
      ],
    },
  },
  {
    files: ['web/**/*.{ts,tsx}'],
    plugins: { 'react-hooks': reactHooks },
    rules: { 'react-hooks/rules-of-hooks': 'error', 'react-hooks/exhaustive-deps': 'error' },
  },
  {
    files: ['web/app/**/*.tsx'],
    rules: { 'no-restricted-syntax': ['error', KIT_ONLY] },
  },
  {
    files: ['web/{app,features}/**/*.tsx'],
    rules: {
      'no-restricted-imports': [
        'error',
        { name: 'radix-ui', message: 'Parts of the interface stand in web/kit, once.' },
        { name: 'next/link', message: 'Ways to other pages are the kit’s: asked for when taken.' },
      ],
    },
  },
  {
    files: ['web/features/**/*.tsx'],
    rules: { 'no-restricted-syntax': ['error', NAMED_ONLY, KIT_ONLY] },
  },
  {
    files: ['core/**', 'store/**', 'lab/**', 'web/kit/**', 'web/features/**/*.ts', 'web/lib/**'],
    rules: {
      'no-restricted-syntax': ['error', NAMED_ONLY],
    },
  },
  { plugins: { local: { rules: { 'function-length': functionLength } } } },
  {
    files: ['{core,lab,store,bench,scripts}/**/*.{ts,tsx,mjs}'],
    rules: {
      'max-lines': ['error', { max: 300 }],
      'local/function-length': ['error', { most: 80 }],
    },
  },
  {
    files: ['{core,lab,store,bench}/src/**/*.{ts,tsx}', 'scripts/**/*.ts'],
    ignores: ['scripts/tests/**'],
    rules: {
      'no-restricted-syntax': [
        'error',
        NAMED_ONLY,
        {
          selector: 'TSAsExpression > TSNeverKeyword',
          message: 'A cast to never hides what is wrong: say what the type is.',
        },
        {
          selector: 'TSAsExpression > TSAsExpression > TSUnknownKeyword',
          message: 'A cast over unknown hides what is wrong: say what the type is, or read it.',
        },
      ],
    },
  },
  {
    files: ['lab/src/compute/report-pdf/*.tsx', 'web/**/*.tsx'],
    rules: { 'local/function-length': ['error', { most: 120 }] },
  },
  { files: ['lab/testing/global-setup.ts'], rules: { 'no-restricted-syntax': 'off' } },
  {
    files: ['**/*.cjs'],
    languageOptions: { sourceType: 'commonjs', globals: { module: 'readonly' } },
  },
);
