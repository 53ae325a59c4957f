import { fileURLToPath } from 'node:url';
import { defineConfig } from 'vitest/config';

const at = (name: string): string => fileURLToPath(new URL(`./packages/${name}`, import.meta.url));
const resolve = { alias: { '@dyepot/core': at('core'), '@dyepot/camera': at('camera'), '@dyepot/server': at('server') } };

export default defineConfig({
  test: {
    maxWorkers: 2,
    projects: [
      {
        resolve,
        test: {
          name: 'unit',
          include: ['packages/*/test/**/*.test.ts'],
          testTimeout: 60000,
          hookTimeout: 60000,
          sequence: { groupOrder: 1 },
        },
      },
      {
        resolve,
        test: {
          name: 'browser',
          include: ['e2e/**/*.test.ts'],
          testTimeout: 90000,
          hookTimeout: 180000,
          fileParallelism: false,
          sequence: { groupOrder: 2 },
        },
      },
    ],
  },
});
