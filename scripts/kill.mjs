// Kills the server, and workers on Redis, at twenty moments of a delivery of 200 frames, with either queue: npm run kill
import { spawnSync } from 'node:child_process';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

process.chdir(join(dirname(fileURLToPath(import.meta.url)), '..'));
const { status } = spawnSync(
  process.execPath,
  ['node_modules/vitest/vitest.mjs', 'run', '--project', 'endurance', 'packages/server/test/farm.test.ts', '-t', 'killed at any moment'],
  { env: { DYEPOT_KILL_FRAMES: '200', DYEPOT_KILLS: '20', ...process.env }, stdio: 'inherit' },
);
process.exit(status ?? 1);
