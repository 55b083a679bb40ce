import boundaries from 'eslint-plugin-boundaries';
import reactHooks from 'eslint-plugin-react-hooks';
import tseslint from 'typescript-eslint';

/** Imports flow one way: core <- protocol <- net <- server | hub | supervisor, protocol <- workers | web <- app. */
const MAY_IMPORT = {
  core: ['core'],
  protocol: ['core', 'protocol'],
  net: ['core', 'protocol', 'net'],
  server: ['core', 'protocol', 'net', 'server'],
  hub: ['core', 'protocol', 'net', 'hub'],
  supervisor: ['protocol', 'net', 'supervisor'],
  web: ['core', 'protocol', 'web'],
  app: ['core', 'protocol', 'server', 'web', 'app'],
};

export default tseslint.config(
  { ignores: ['node_modules', '.next', 'dist', 'next-env.d.ts', 'test-results'] },
  ...tseslint.configs.recommended,
  {
    files: ['app/**/*.{ts,tsx}', 'src/**/*.{ts,tsx}'],
    plugins: { boundaries, 'react-hooks': reactHooks },
    settings: {
      'import/resolver': { node: { extensions: ['.ts', '.tsx', '.js', '.mjs'] } },
      'boundaries/elements': Object.keys(MAY_IMPORT).map((room) => ({
        type: room,
        pattern: room === 'app' ? 'app/**' : `src/${room}/**`,
        partialMatch: false,
      })),
    },
    rules: {
      'boundaries/dependencies': [
        'error',
        {
          default: 'disallow',
          policies: Object.entries(MAY_IMPORT).map(([from, allow]) => ({
            from: { element: { type: from } },
            allow: allow.map((type) => ({ to: { element: { type } } })),
          })),
        },
      ],
      'react-hooks/rules-of-hooks': 'error',
      'react-hooks/exhaustive-deps': 'error',
      eqeqeq: 'error',
    },
  },
  {
    // The core is pure: no package but a Fourier transform, a thinning of lines and the theory of music, no Node, no clock and no page. Tests beside it may use their tools.
    files: ['src/core/**/*.ts'],
    ignores: ['src/core/**/*.test.ts', 'src/core/**/test[A-Z]*.ts'],
    rules: {
      'no-restricted-imports': ['error', { patterns: [{ regex: '^(?!fft\\.js$|simplify-js$|tonal$)[^.]', message: 'The core imports nothing from outside itself.' }] }],
      'no-restricted-globals': ['error', 'window', 'document', 'navigator', 'process', 'Buffer', 'setTimeout', 'setInterval', 'performance', 'fetch'],
      'no-restricted-properties': [
        'error',
        { object: 'Date', property: 'now', message: 'Time is passed in.' },
        { object: 'Math', property: 'random', message: 'Chance comes from a seed that is passed in.' },
      ],
      'no-restricted-syntax': ['error', { selector: "NewExpression[callee.name='Date']", message: 'Time is passed in.' }],
    },
  },
  {
    // The engine reads as a manual: a room that grows beyond this has become two.
    files: ['src/core/engine/**/*.ts'],
    ignores: ['src/core/engine/**/*.test.ts'],
    rules: { 'max-lines': ['error', 250] },
  },
  {
    // Who works by keys is in what opens, and afterwards where it was opened: that is done once, in these.
    files: ['app/**/*.tsx', 'src/web/**/*.tsx'],
    ignores: ['src/web/panels/shared/{Dialog,Menu,Popup}.tsx'],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          paths: [
            {
              name: 'antd',
              importNames: ['Modal', 'Drawer', 'Dropdown', 'Popover', 'Popconfirm'],
              message: 'What opens gives the focus back: use Dialog, Aside, Menu or Popup in src/web/panels/shared (docs/decisions/0039).',
            },
          ],
        },
      ],
    },
  },
);
