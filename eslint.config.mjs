import next from 'eslint-config-next/core-web-vitals';
import nextTypescript from 'eslint-config-next/typescript';
import { defineConfig, globalIgnores } from 'eslint/config';

export default defineConfig([
  ...next,
  ...nextTypescript,
  globalIgnores([
    '**/node_modules/**',
    'web/.next/**',
    'web/.checks/**',
    '.data/**',
    '.cache/**',
    'store/generated.ts',
    '**/next-env.d.ts',
  ]),
  {
    settings: { next: { rootDir: 'web' } },
    rules: {
      eqeqeq: ['error', 'always', { null: 'ignore' }],
      'no-console': 'off',
      '@typescript-eslint/no-unused-vars': ['error', { varsIgnorePattern: '^_', argsIgnorePattern: '^_' }],
      '@typescript-eslint/no-explicit-any': 'error',
      '@next/next/no-html-link-for-pages': 'off',
      // Coming in and going out load the page anew on purpose: nothing of the one before may stay in memory.
      '@next/next/no-location-assign-relative-destination': 'off',
      'import/no-anonymous-default-export': 'off',
    },
  },
  {
    // One link, which fetches nothing before it is followed.
    files: ['web/**/*.{ts,tsx}'],
    ignores: ['web/parts/frame/Link.tsx'],
    rules: { 'no-restricted-imports': ['error', { paths: ['next/link'] }] },
  },
  {
    files: ['web/**/*.{ts,tsx}'],
    rules: {
      'no-restricted-syntax': [
        'error',
        {
          selector:
            "ArrowFunctionExpression > :matches(CallExpression, ChainExpression) [property.name='scrollIntoView']",
          message: 'Newer browsers answer with a promise, which an effect would take for what ends it: use a block.',
        },
      ],
    },
  },
  {
    // The computation keeps no clock and no chance of its own, and knows no interface.
    files: ['core/**/*.ts'],
    ignores: ['**/*.test.ts'],
    rules: {
      'no-restricted-globals': [
        'error',
        'window',
        'document',
        'localStorage',
        'fetch',
        'process',
        'setTimeout',
        'setInterval',
        'performance',
      ],
      'no-restricted-properties': [
        'error',
        { object: 'Math', property: 'random' },
        { object: 'Date', property: 'now' },
      ],
      'no-restricted-syntax': [
        'error',
        { selector: "NewExpression[callee.name='Date'][arguments.length=0]", message: 'Time is passed in.' },
      ],
    },
  },
]);
