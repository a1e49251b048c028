import prettier from 'eslint-config-prettier';
import vue from 'eslint-plugin-vue';
import tseslint from 'typescript-eslint';

/** Rooms of the page, one for each subject. */
const SUBJECTS = [
  ...['start', 'batch', 'preset', 'mark', 'design', 'paper', 'pen', 'delivery', 'run', 'settings'],
  'readability',
];

/** What puts the page together knows all its rooms. */
const WHOLE_PAGE = ['App.vue', 'AppHeader.vue', 'router.ts', 'viewTitle.ts'].map(
  (name) => `web/app/${name}`,
);

/** Folders that a folder may not import from: the arrows of the house point one way. */
const FORBIDDEN_IMPORTS = {
  'core/**/*.ts': [
    '#server/*',
    '#cli/*',
    'node:*',
    'sharp',
    'vue',
    'express',
    '**/server/**',
    '**/web/**',
  ],
  'web/**/*.{ts,vue}': ['#server/*', '#cli/*', 'node:*', '**/server/**'],
  // The kit knows no subject.
  'web/ui/**/*.{ts,vue}': [
    ...['#server/*', '#cli/*', 'node:*', '**/server/**'],
    ...['../app/*', '../api/*', '../workers/*', ...SUBJECTS.map((subject) => `../${subject}/**`)],
  ],
  'web/app/**/*.{ts,vue}': [
    ...['#server/*', '#cli/*', 'node:*', '**/server/**'],
    ...SUBJECTS.map((subject) => `../${subject}/**`),
  ],
  'server/**/*.ts': ['#cli/*', '**/web/**', 'vue'],
  'server/routes/**/*.ts': ['sharp', 'better-sqlite3', '**/imaging/sharp.ts', '#cli/*'],
  'cli/**/*.ts': ['**/web/**', 'vue', 'express', 'sharp'],
};

export default tseslint.config(
  {
    ignores: ['dist/', 'node_modules/', '.data/', '.cache/', 'test-results/', 'playwright-report/'],
  },
  ...tseslint.configs.recommended,
  ...vue.configs['flat/recommended'],
  {
    files: ['**/*.vue'],
    languageOptions: { parserOptions: { parser: tseslint.parser } },
  },
  {
    rules: {
      '@typescript-eslint/consistent-type-imports': 'error',
      eqeqeq: 'error',
      'no-console': 'error',
      'no-control-regex': 'error',
      'prefer-const': 'error',
      'vue/multi-word-component-names': 'off',
      'vue/require-default-prop': 'off',
    },
  },
  ...Object.entries(FORBIDDEN_IMPORTS).map(([pattern, group]) => ({
    files: [pattern],
    ignores: ['**/*.test.ts', ...(pattern.startsWith('web/app') ? WHOLE_PAGE : [])],
    rules: {
      'no-restricted-imports': [
        'error',
        { patterns: [{ group, message: 'The house’s arrows point the other way.' }] },
      ],
    },
  })),
  prettier,
);
