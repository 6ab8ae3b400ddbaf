import js from '@eslint/js';
import next from '@next/eslint-plugin-next';
import hooks from 'eslint-plugin-react-hooks';
import ts from 'typescript-eslint';

const FOLDERS = ['app', 'ui', 'workers', 'books', 'adapters', 'standins', 'formats', 'core'];

/** What a folder may import of the others; everything else fails the build. See docs/architecture.md. */
const ARROWS = {
  core: [],
  formats: ['core'],
  adapters: ['core', 'formats'],
  // The simulated outside world knows nothing of the product but what passes between them.
  standins: ['formats'],
  books: ['core', 'formats', 'adapters'],
  workers: ['books', 'core', 'formats', 'adapters'],
  egg: ['books', 'core', 'formats', 'adapters'],
  ui: ['core', 'formats'],
  app: ['ui', 'workers', 'books', 'core', 'formats', 'adapters', 'standins'],
};

/** Libraries that have one home each. */
const HOMES = [
  { packages: ['kysely', 'better-sqlite3'], home: ['books'], message: 'Only books/ speaks to the database.' },
  {
    packages: ['react', 'react-dom', 'react-bootstrap', 'react-bootstrap/*', 'next', 'next/*'],
    home: ['ui', 'app'],
    message: 'Only ui/ and app/ draw pages.',
  },
  {
    packages: ['node:*', 'fs', 'path', 'crypto'],
    home: ['adapters', 'standins', 'workers', 'app', 'books', 'egg'],
    message: 'core/, formats/ and ui/ touch neither files nor processes.',
  },
];

function arrowsOf(folder) {
  const forbidden = FOLDERS.filter((other) => other !== folder && !ARROWS[folder].includes(other));
  const patterns = forbidden.map((other) => ({
    regex: `^(@/|(\\.\\./)+)${other}(/|$)`,
    // A screen may know the shape of what it shows, not how it is fetched.
    allowTypeImports: folder === 'ui' && other === 'books',
    message: `${folder}/ does not import ${other}/ (docs/architecture.md).`,
  }));
  for (const { packages, home, message } of HOMES) {
    if (!home.includes(folder)) patterns.push({ group: packages, message });
  }
  return {
    files: [`src/${folder}/**/*.{ts,tsx}`],
    ignores: ['**/*.test.ts'],
    rules: { '@typescript-eslint/no-restricted-imports': ['error', { patterns }] },
  };
}

export default ts.config(
  { ignores: ['node_modules', '.next', 'dist', 'data', 'next-env.d.ts', 'test-results', 'playwright-report'] },
  js.configs.recommended,
  ...ts.configs.strict,
  {
    rules: {
      '@typescript-eslint/no-non-null-assertion': 'off',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      '@typescript-eslint/no-invalid-void-type': 'off',
      // The formatter lays out every line; one that reads badly then is said otherwise.
      'no-warning-comments': ['error', { terms: ['prettier-ignore'], location: 'anywhere' }],
      'max-lines': ['error', { max: 300, skipBlankLines: true, skipComments: true }],
    },
  },
  {
    files: ['src/**/*.tsx'],
    plugins: { 'react-hooks': hooks, '@next/next': next },
    rules: {
      ...hooks.configs['recommended-latest'].rules,
      ...next.configs.recommended.rules,
      'react-hooks/incompatible-library': 'off',
    },
  },
  {
    files: ['**/*.mjs'],
    languageOptions: {
      globals: { process: 'readonly', console: 'readonly', fetch: 'readonly', setTimeout: 'readonly', URL: 'readonly' },
    },
  },
  ...FOLDERS.map(arrowsOf),
);
