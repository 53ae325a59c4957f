// One command from a fresh clone to the running demo: installs, builds, seeds the demo shoot, serves it.
import { spawnSync } from 'node:child_process';
import { existsSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

const root = join(dirname(fileURLToPath(import.meta.url)), '..');
process.chdir(root);
const step = (words, command, args) => {
  process.stderr.write(`${words}\n`);
  const { status } = spawnSync(command, args, { stdio: ['ignore', 'inherit', 'inherit'] });
  if (status !== 0) process.exit(status ?? 1);
};
if (!existsSync('node_modules/.package-lock.json'))
  step('Installing packages (about three minutes: SQLite is compiled)…', 'npm', ['ci', '--no-audit', '--no-fund']);
step('Building…', process.execPath, ['scripts/build.mjs']);
process.env.DYEPOT_DATA ??= join(root, '.tmp', 'demo');
step('Preparing the demo shoot…', process.execPath, ['dist/seed.mjs']);
process.exit(spawnSync(process.execPath, ['dist/dyepot.mjs', 'serve', ...process.argv.slice(2)], { stdio: 'inherit' }).status ?? 0);
