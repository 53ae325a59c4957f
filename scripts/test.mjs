// Runs every check: types, lint, unit tests, browser tests. On a fresh clone it installs and builds first.
import { spawn, spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

process.chdir(join(dirname(fileURLToPath(import.meta.url)), '..'));
const step = (words, command, args) => {
  console.log(`— ${words}`);
  const { status } = spawnSync(command, args, { stdio: ['ignore', 'inherit', 'inherit'] });
  if (status !== 0) {
    console.log(`${words}: failed`);
    process.exit(status ?? 1);
  }
};
// the browsers, and the tools that results are compared with
const debian = [
  'chromium',
  'firefox-esr',
  'libraw-bin',
  'libimage-exiftool-perl',
  'libvips-tools',
  'liblensfun-bin',
  'liblensfun-data-v1',
  'opencolorio-tools',
  'python3-pyopencolorio',
  'imagemagick',
  'curl',
  'openssl',
  'redis-server',
];
const missing = debian.filter((name) => spawnSync('dpkg', ['-s', name], { stdio: 'ignore' }).status !== 0);
if (missing.length > 0) {
  const root = process.getuid?.() === 0,
    sudo = !root && spawnSync('sudo', ['-n', 'true'], { stdio: 'ignore' }).status === 0,
    install = ['apt-get', 'install', '-y', '-q', '--no-install-recommends', ...missing];
  if (!root && !sudo) {
    console.log(`The tests need what Debian has. Run this, then npm test again:\n\n  sudo apt-get update && sudo ${install.join(' ')}\n`);
    process.exit(1);
  }
  const asRoot = (args) => (root ? [args[0], args.slice(1)] : ['sudo', ['--preserve-env=DEBIAN_FRONTEND', ...args]]);
  process.env.DEBIAN_FRONTEND = 'noninteractive';
  step('Fetching the list of packages', ...asRoot(['apt-get', 'update', '-q']));
  step(`Installing ${missing.join(', ')}`, ...asRoot(install));
}
if (!existsSync('node_modules/.package-lock.json')) step('Installing packages', 'npm', ['ci', '--no-audit', '--no-fund']);
step('Building', process.execPath, ['scripts/build.mjs']);
// three checks that do not wait for each other
const checks = [
  ['Types', ['node_modules/typescript/bin/tsc', '-p', 'tsconfig.json']],
  ['Layout', ['node_modules/prettier/bin/prettier.cjs', '--check', '--log-level', 'warn', 'packages', 'e2e', 'scripts']],
  ['Boundaries and style', ['node_modules/eslint/bin/eslint.js', 'packages', 'e2e']],
].map(
  ([words, args]) =>
    new Promise((resolve) => {
      const child = spawn(process.execPath, args, { stdio: ['ignore', 'pipe', 'pipe'] });
      let said = '';
      for (const from of [child.stdout, child.stderr]) from.on('data', (d) => (said += d));
      child.on('close', (status) => resolve({ words, status, said }));
    }),
);
console.log('— Checking types, layout, boundaries and style');
for (const { words, status, said } of await Promise.all(checks)) {
  if (status === 0) continue;
  console.log(`${said}\n${words}: failed`);
  process.exit(1);
}
mkdirSync('.tmp', { recursive: true });
/** Runs the tests; what they said, file by file. */
const tested = (args, into) => {
  const { status } = spawnSync(
    process.execPath,
    ['node_modules/vitest/vitest.mjs', 'run', '--reporter=default', '--reporter=json', `--outputFile.json=${into}`, ...args],
    { stdio: ['ignore', 'inherit', 'inherit'] },
  );
  const said = JSON.parse(readFileSync(into, 'utf8'));
  console.log(`${said.numPassedTests} passed, ${said.numFailedTests} failed`);
  return { status: status ?? 1, failed: said.testResults.filter((f) => f.status === 'failed') };
};
const first = tested(process.argv.slice(2), '.tmp/tests.json');
// A busy machine makes a test fail now and then: a few files that failed are run once more, alone, and it is said.
if (first.status === 0 || first.failed.length === 0 || first.failed.length > 4) process.exit(first.status);
console.log('— Once more, alone, what failed:');
for (const { assertionResults } of first.failed)
  for (const t of assertionResults.filter((a) => a.status === 'failed')) console.log(`  ${t.fullName}`);
process.exit(
  tested(
    first.failed.map((f) => f.name),
    '.tmp/again.json',
  ).status,
);
