import js from '@eslint/js';
import next from 'eslint-config-next';
import tseslint from 'typescript-eslint';

const PROSE_WIDTH = 120;

/** Comments are read as prose: a line of them is no longer than a line of code. What tools read stays in one line. */
const proseWidth = {
  create: (context) => ({
    Program() {
      for (const { value, loc } of context.sourceCode.getAllComments()) {
        if (/^\s*(eslint|prettier|@ts)-/.test(value)) continue;
        for (let line = loc.start.line; line <= loc.end.line; line++) {
          const { length } = context.sourceCode.lines[line - 1];
          const isProse =
            loc.start.line !== loc.end.line || loc.start.column === context.sourceCode.lines[line - 1].search(/\S/);
          if (isProse && length > PROSE_WIDTH)
            context.report({
              loc: { line, column: PROSE_WIDTH },
              message: `Prose goes on in the next line after ${PROSE_WIDTH} letters.`,
            });
        }
      }
    },
  }),
};

export default tseslint.config(
  {
    ignores: [
      '**/node_modules',
      '**/.next',
      '.cache',
      '**/next-env.d.ts',
      'data',
      'apps/studio/drizzle',
      'coverage',
      '**/dist',
      'packages/kit/docs',
      'apps/studio/public',
    ],
  },
  js.configs.recommended,
  ...tseslint.configs.recommended,
  ...next.map((config) => ({ ...config, files: ['apps/studio/**/*.{ts,tsx}', 'packages/kit/**/*.{ts,tsx}'] })),
  { plugins: { prose: { rules: { width: proseWidth } } }, rules: { 'prose/width': 'error' } },
  {
    files: ['**/*.{ts,tsx}'],
    languageOptions: { parser: tseslint.parser },
    settings: { next: { rootDir: 'apps/studio' } },
    rules: {
      '@typescript-eslint/consistent-type-imports': 'error',
      '@typescript-eslint/no-explicit-any': 'error',
      '@typescript-eslint/no-non-null-assertion': 'off',
      'no-console': 'error',
      eqeqeq: 'error',
      'no-restricted-syntax': [
        'error',
        {
          selector: 'CatchClause[param=null]',
          message: 'Name the error: handle the one that is meant, pass on any other.',
        },
      ],
    },
  },
  {
    // What runs in browsers runs over plain HTTP too, where these are not there (W3C, Secure Contexts).
    files: ['apps/studio/src/{features,ui,app,formats}/**', 'packages/{kit,offline,contract}/src/**'],
    rules: {
      'no-restricted-properties': [
        'error',
        { object: 'crypto', property: 'randomUUID', message: 'Absent over plain HTTP: take crypto.getRandomValues.' },
        { object: 'crypto', property: 'subtle', message: 'Absent over plain HTTP.' },
        { object: 'navigator', property: 'clipboard', message: 'Absent over plain HTTP: take ui/copy-text.' },
      ],
    },
  },
  { files: ['**/*.cjs'], languageOptions: { globals: { module: 'writable' } } },
  {
    files: ['scripts/**', '**/*.mjs'],
    languageOptions: {
      globals: {
        process: 'readonly',
        console: 'readonly',
        fetch: 'readonly',
        setTimeout: 'readonly',
        AbortSignal: 'readonly',
      },
    },
    rules: { 'no-console': 'off' },
  },
);
