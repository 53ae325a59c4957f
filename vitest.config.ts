import { fileURLToPath } from 'node:url';
import { defineConfig, type TestProjectInlineConfiguration } from 'vitest/config';

const at = (name: string): string => fileURLToPath(new URL(`./packages/${name}`, import.meta.url));

/** Servers killed, disks filled, mutants fed: minutes, not seconds. */
const endurance = ['packages/server/test/{endurance,killed,orders,kept,farm}.test.ts', 'packages/server/test/fuzz.test.ts'];

let groups = 0;
/** One group of tests, run after those before it. */
const project = (name: string, more: TestProjectInlineConfiguration['test']): TestProjectInlineConfiguration => ({
  resolve: { alias: { '@dyepot/core': at('core'), '@dyepot/camera': at('camera'), '@dyepot/server': at('server') } },
  test: {
    name,
    setupFiles: [at('server/src/filmEngine.ts')],
    testTimeout: 60000,
    hookTimeout: 60000,
    // what is waited for may be slow to come on a busy machine, which is no fault
    expect: { poll: { timeout: 30000 } },
    sequence: { groupOrder: ++groups },
    ...more,
  },
});

export default defineConfig({
  test: {
    maxWorkers: 2,
    projects: [
      project('unit', { include: ['packages/{core,camera,web}/test/**/*.test.ts'] }),
      project('server', { include: ['packages/{server,cli}/test/**/*.test.ts'], exclude: endurance }),
      project('endurance', { include: endurance, testTimeout: 90000 }),
      project('browser', {
        include: ['e2e/**/*.test.ts'],
        setupFiles: [],
        globalSetup: ['e2e/seeded.ts'],
        testTimeout: 150000,
        hookTimeout: 180000,
        fileParallelism: false,
      }),
    ],
  },
});
