import { fileURLToPath } from 'node:url';
import { defineConfig } from 'vitest/config';

const at = (name: string): string => fileURLToPath(new URL(`./packages/${name}`, import.meta.url));
const resolve = { alias: { '@dyepot/core': at('core'), '@dyepot/camera': at('camera'), '@dyepot/server': at('server') } };

/** What is waited for may be slow to come on a busy machine, which is no fault. */
const expect = { poll: { timeout: 30000 } };
/** Servers killed, disks filled, mutants fed: minutes, not seconds. */
const endurance = ['packages/server/test/{endurance,killed,orders,kept,farm}.test.ts', 'packages/server/test/fuzz.test.ts'];

export default defineConfig({
  test: {
    maxWorkers: 2,
    projects: [
      {
        resolve,
        test: {
          name: 'unit',
          setupFiles: [at('server/src/filmEngine.ts')],
          include: ['packages/*/test/**/*.test.ts'],
          exclude: endurance,
          testTimeout: 60000,
          expect,
          hookTimeout: 60000,
          sequence: { groupOrder: 1 },
        },
      },
      {
        resolve,
        test: {
          name: 'endurance',
          setupFiles: [at('server/src/filmEngine.ts')],
          include: endurance,
          testTimeout: 90000,
          hookTimeout: 60000,
          expect,
          sequence: { groupOrder: 2 },
        },
      },
      {
        resolve,
        test: {
          name: 'browser',
          include: ['e2e/**/*.test.ts'],
          globalSetup: ['e2e/seeded.ts'],
          testTimeout: 150000,
          hookTimeout: 180000,
          fileParallelism: false,
          expect,
          sequence: { groupOrder: 3 },
        },
      },
    ],
  },
});
