import tseslint from 'typescript-eslint';

const platform = ['node:*', 'react', 'react-dom', 'express', 'sequelize', 'sharp', 'fs', 'path'];
const forbid = (patterns, message) => ({ 'no-restricted-imports': ['error', { patterns: [{ group: patterns, message }] }] });

export default tseslint.config(
  { ignores: ['**/dist/**', 'packages/core/kernels/**', '**/*.mjs', '**/*.js'] },
  ...tseslint.configs.recommended,
  {
    rules: {
      '@typescript-eslint/no-explicit-any': 'error',
      'max-lines': ['error', { max: 300, skipBlankLines: true }],
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_' }],
    },
  },
  {
    files: ['packages/core/src/**'],
    rules: {
      ...forbid(
        [...platform, '@dyepot/server*', '@dyepot/web*', '@dyepot/camera*'],
        'core runs anywhere: it knows no platform and no other package',
      ),
      'no-restricted-syntax': ['error', { selector: 'ExportDefaultDeclaration', message: 'core has no default exports' }],
    },
  },
  { files: ['packages/core/src/steps/*/**'], rules: forbid([...platform, '../[a-z]*/index.ts'], 'a step never imports another step') },
  {
    files: ['packages/web/src/**'],
    rules: forbid(['@dyepot/server*', '@dyepot/camera*', 'node:*'], 'the pages know the server only by its addresses'),
  },
  {
    files: ['packages/server/src/**', 'packages/cli/src/**'],
    rules: forbid(['@dyepot/web*', '@dyepot/camera*', 'react*'], 'the server knows neither the pages nor the camera'),
  },
);
