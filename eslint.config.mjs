import js from '@eslint/js';
import importX from 'eslint-plugin-import-x';
import reactHooks from 'eslint-plugin-react-hooks';
import ts from 'typescript-eslint';
import circles from './scripts/lint/circles.mjs';

/** Imports go down this list only: core ← contract ← server, app. */
const may = {
  core: [],
  contract: ['core'],
  server: ['core', 'contract'],
  app: ['core', 'contract'],
};
const frameworks = [
  'react',
  'react-*',
  'expo',
  'expo-*',
  '@rneui/*',
  '@reduxjs/*',
  'express*',
  'sequelize',
];
const workspaces = Object.keys(may);

const order = workspaces.map((name) => {
  const not = workspaces.filter((other) => other !== name && !may[name].includes(other));
  return {
    files: [`${name}/src/**/*.{ts,tsx}`],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          patterns: [
            {
              group: not.flatMap((other) => [
                `@back-again/${other}`,
                `@back-again/${other}/*`,
                `**/../${other}/src/**`,
              ]),
              message: `${name} may import ${may[name].join(' and ') || 'none of the others'}.`,
            },
            ...(name === 'core'
              ? [
                  {
                    group: [...frameworks, 'node:*'],
                    message: 'The core computes, and nothing else.',
                  },
                ]
              : []),
          ],
        },
      ],
    },
  };
});

const zone = (target, from, message) => ({
  target: `./app/src/${target}`,
  from: `./app/src/${from}`,
  message,
});
const features = ['account', 'all', 'editor', 'finish', 'said', 'settings', 'today', 'todo'];

/** Inside the server: what a room may not know of the others. Only `http/app.ts` knows all doors. */
const doors = ['account', 'doors', 'files', 'past', 'places', 'said', 'todos'];
const above = ['clock', 'demo', 'http', 'outbox', ...doors];
const rooms = {
  compute: ['db', 'machine', ...above],
  db: ['machine', ...above],
  // What has to be said goes in with what is written.
  machine: above.filter((name) => name !== 'said' && name !== 'files'),
  outbox: ['demo', 'http', ...doors.filter((name) => name !== 'said')],
  clock: ['demo', 'http', 'doors', 'past', 'places', 'files'],
  past: ['clock', 'demo', 'outbox', 'account', 'doors', 'todos'],
  operator: ['machine', ...above],
  todos: ['clock', 'demo', 'outbox', 'account', 'doors', 'past'],
};
const borders = Object.entries(rooms).flatMap(([room, not]) =>
  not.map((other) => ({
    target: `./server/src/${room}/**/!(*.test).ts`,
    from: `./server/src/${other}`,
    message: `${room} knows nothing of ${other}.`,
  })),
);

export default ts.config(
  { ignores: ['**/node_modules/', '**/dist/', '.data/', '.cache/', '**/.expo/', 'test-results/'] },
  js.configs.recommended,
  ...ts.configs.recommended,
  {
    plugins: { 'import-x': importX, house: { rules: { circles } } },
    settings: {
      'import-x/ignore': ['node_modules'],
      'import-x/extensions': ['.ts', '.tsx', '.mjs', '.js'],
      'import-x/resolver-next': [
        importX.createNodeResolver({ extensions: ['.ts', '.tsx', '.mjs', '.js'] }),
      ],
    },
    rules: { 'house/circles': 'error', 'import-x/no-duplicates': 'error' },
  },
  {
    files: ['**/*.{ts,tsx}'],
    rules: {
      '@typescript-eslint/consistent-type-imports': ['error', { fixStyle: 'inline-type-imports' }],
      '@typescript-eslint/no-non-null-assertion': 'off',
      '@typescript-eslint/no-unused-vars': [
        'error',
        { varsIgnorePattern: '^_', argsIgnorePattern: '^_' },
      ],
      eqeqeq: 'error',
    },
  },
  {
    files: ['**/*.{js,mjs,cjs}'],
    languageOptions: {
      globals: {
        process: 'readonly',
        globalThis: 'readonly',
        setTimeout: 'readonly',
        performance: 'readonly',
        clearTimeout: 'readonly',
        URL: 'readonly',
        fetch: 'readonly',
        AbortController: 'readonly',
        AbortSignal: 'readonly',
        document: 'readonly',
        console: 'readonly',
        self: 'readonly',
        module: 'writable',
        require: 'readonly',
        __dirname: 'readonly',
      },
    },
    rules: { '@typescript-eslint/no-require-imports': 'off' },
  },
  ...order,
  // The command line of the core is its edge: it alone reads and writes. The checks stop libraries that look for ever.
  {
    files: ['core/src/cli.ts', 'core/src/rule/check/references.ts'],
    rules: { 'no-restricted-imports': 'off' },
  },
  {
    files: ['server/src/**/*.ts'],
    rules: { 'import-x/no-restricted-paths': ['error', { zones: borders }] },
  },
  // With types: what is begun is waited for, and every case of a union is there.
  {
    files: workspaces.map((name) => `${name}/src/**/*.{ts,tsx}`),
    languageOptions: {
      parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname },
    },
    rules: {
      '@typescript-eslint/no-floating-promises': 'error',
      '@typescript-eslint/await-thenable': 'error',
      '@typescript-eslint/switch-exhaustiveness-check': [
        'error',
        { considerDefaultExhaustiveForUnions: true },
      ],
    },
  },
  {
    files: ['app/src/**/*.{ts,tsx}'],
    plugins: { 'react-hooks': reactHooks },
    rules: {
      'react-hooks/rules-of-hooks': 'error',
      'react-hooks/exhaustive-deps': 'error',
      'import-x/no-restricted-paths': [
        'error',
        {
          zones: [
            zone('ui', 'features', 'The look knows no feature.'),
            zone('ui', 'data', 'The look knows no data.'),
            zone('data', 'features', 'The data knows no feature.'),
            ...features.map((name) => ({
              target: `./app/src/features/${name}`,
              from: './app/src/features',
              except: [`./${name}`],
              message:
                'A feature can be deleted and only its route breaks: put what is shared into ui or data.',
            })),
          ],
        },
      ],
    },
  },
);
