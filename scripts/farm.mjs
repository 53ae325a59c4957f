// Measures what scales: 1, 2 and 4 real workers on this machine over the demo's raws, and a simulation of 1 to 100 workers, which
// are real BullMQ workers on a real Redis before a real server's queue, but only sleep as long as frames take: npm run farm
import { spawn, spawnSync } from 'node:child_process';
import { dirname, join } from 'node:path';
import { fileURLToPath, pathToFileURL } from 'node:url';
import { build } from 'esbuild';
import { buildServer } from './build.mjs';

const root = join(dirname(fileURLToPath(import.meta.url)), '..'),
  at = (name) => join(root, 'packages', name),
  out = join(root, 'dist/farm-bench.mjs');
process.chdir(root);
if (spawnSync('which', ['redis-server']).status !== 0) {
  console.log('Redis is missing: apt-get install redis-server');
  process.exit(1);
}
await buildServer();
await build({
  bundle: true,
  platform: 'node',
  format: 'esm',
  target: 'node20',
  packages: 'external',
  alias: { '@dyepot/core': at('core'), '@dyepot/camera': at('camera'), '@dyepot/server': at('server') },
  entryPoints: [at('server/fuzz/farmBench.ts')],
  outfile: out,
  logLevel: 'warning',
});
const port = 6411,
  redis = spawn('redis-server', ['--port', String(port), '--bind', '127.0.0.1', '--save', '', '--appendonly', 'no'], { stdio: 'ignore' });
await new Promise((r) => setTimeout(r, 800));
try {
  const { measure } = await import(pathToFileURL(out).href);
  await measure(`redis://127.0.0.1:${port}`, console.log);
} finally {
  redis.kill();
}
process.exit(0);
