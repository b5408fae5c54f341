import js from '@eslint/js';
import hooks from 'eslint-plugin-react-hooks';
import ts from 'typescript-eslint';

const noImports = (patterns, message) => ({
  'no-restricted-imports': ['error', { patterns: [{ group: patterns, message }] }],
});

export default ts.config(
  { ignores: ['**/dist/', 'node_modules/', '.data/', '.test/'] },
  js.configs.recommended,
  ...ts.configs.recommended,
  {
    rules: {
      '@typescript-eslint/no-explicit-any': 'error',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      '@typescript-eslint/consistent-type-imports': 'error',
      'no-else-return': 'error',
      eqeqeq: 'error',
    },
  },
  {
    files: ['**/*.mjs'],
    languageOptions: {
      globals: {
        process: 'readonly',
        console: 'readonly',
        Buffer: 'readonly',
        URL: 'readonly',
        fetch: 'readonly',
        setTimeout: 'readonly',
      },
    },
  },
  {
    files: ['contract/src/**'],
    rules: noImports(['@gremium/*', 'node:*', 'react', 'pg', 'fastify'], 'contract imports only zod'),
  },
  {
    files: ['core/src/**'],
    ignores: ['**/*.test.ts'],
    rules: {
      ...noImports(
        ['@gremium/server', '@gremium/web', 'node:*', 'pg', 'react', 'react-*', 'fastify', '**/demo/*'],
        'core is pure: it imports only contract',
      ),
      'no-restricted-globals': ['error', 'Date', 'process', 'fetch', 'setTimeout', 'crypto'],
      'no-restricted-properties': ['error', { object: 'Math', property: 'random' }],
    },
  },
  {
    // grants are read by may() alone; whoever else did would forget one of its conditions
    files: ['core/src/**', 'server/src/**', 'web/src/**', 'contract/src/**'],
    ignores: ['contract/src/access/**', '**/*.test.ts'],
    rules: {
      'no-restricted-syntax': [
        'error',
        {
          selector:
            "CallExpression[callee.type='MemberExpression'][callee.property.name=/^(some|every|filter|find|map|flatMap)$/]:matches([callee.object.name='grants'], [callee.object.property.name='grants'])",
          message: 'grants are read by may() alone',
        },
      ],
    },
  },
  {
    files: ['server/src/**'],
    rules: noImports(['@gremium/web', 'react', 'react-*', 'antd'], 'server imports contract and core'),
  },
  {
    files: ['web/src/**'],
    plugins: { 'react-hooks': hooks },
    rules: {
      ...hooks.configs.recommended.rules,
      ...noImports(['@gremium/server', 'pg', 'fastify', 'node:*'], 'web imports contract and core'),
    },
  },
);
