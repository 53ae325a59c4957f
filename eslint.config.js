import tseslint from 'typescript-eslint';

const platform = ['node:*', 'react', 'react-dom', 'express', 'sequelize', 'sharp', 'fs', 'path'];
const forbid = (patterns, message) => ({ 'no-restricted-imports': ['error', { patterns: [{ group: patterns, message }] }] });

// Inside core arrows go only down this list; rooms of one line know nothing of each other.
const rooms = [
  ['match'],
  ['plan'],
  ['look'],
  ['steps', 'stock', 'mask', 'groundwork', 'repair'],
  ['formats'],
  ['render'],
  ['plate'],
  ['kernels'],
  ['colour'],
];
const order = rooms.flatMap((line, i) =>
  line.map((room) => {
    const above = [...rooms.slice(0, i).flat(), ...line.filter((other) => other !== room)];
    return {
      files: [`packages/core/src/${room}/**`],
      rules: forbid(
        [
          ...platform,
          '@dyepot/server*',
          '@dyepot/web*',
          '@dyepot/camera*',
          ...above.map((other) => `**/${other}/**`),
          ...(room === 'steps' ? ['../[a-z]*/index.ts'] : []),
        ],
        'arrows between the rooms of core go down, and core knows no platform and no other package; a step never imports another',
      ),
    };
  }),
);
const features = ['bench', 'deliveries', 'evenness', 'ground', 'house', 'shelf', 'shoots', 'steps', 'swatches', 'trash'];

export default tseslint.config(
  { ignores: ['**/dist/**', '.tmp/**', 'packages/core/kernels/**', '**/*.mjs', '**/*.js'] },
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
  ...order,
  {
    files: ['packages/web/src/**'],
    rules: forbid(['@dyepot/server*', '@dyepot/camera*', 'node:*'], 'the pages know the server only by its addresses'),
  },
  {
    files: ['packages/web/src/kit/**', 'packages/web/src/view/**'],
    rules: forbid(
      ['@dyepot/server*', '@dyepot/camera*', 'node:*', ...features.map((name) => `../${name}/*`)],
      'kit and view know no feature, and the pages know the server only by its addresses',
    ),
  },
  {
    files: ['packages/web/src/steps/**'],
    rules: forbid(
      ['@dyepot/server*', '@dyepot/camera*', 'node:*', '**/bench/*'],
      'the faces of steps are put on the bench, and know nothing of it',
    ),
  },
  {
    files: ['packages/server/src/**', 'packages/cli/src/**'],
    rules: forbid(['@dyepot/web*', '@dyepot/camera*', 'react*'], 'the server knows neither the pages nor the camera'),
  },
);
