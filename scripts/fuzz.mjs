// Feeds seeded mutants of every readable format, and of every request's body, to the real readers and the real server:
// npm run fuzz [-- COUNT]. Ends with 1 when a promise is broken.
import { mkdirSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath, pathToFileURL } from 'node:url';
import { build } from 'esbuild';
import { buildServer } from './build.mjs';

const root = join(dirname(fileURLToPath(import.meta.url)), '..'),
  out = join(root, 'dist/fuzz/fuzz.mjs'),
  at = (name) => join(root, 'packages', name);
process.chdir(root);
await buildServer();
mkdirSync(join(root, 'dist/fuzz'), { recursive: true });
await build({
  bundle: true,
  platform: 'node',
  format: 'esm',
  target: 'node20',
  packages: 'external',
  alias: { '@dyepot/core': at('core'), '@dyepot/camera': at('camera'), '@dyepot/server': at('server') },
  entryPoints: [at('server/fuzz/fuzz.ts')],
  outfile: out,
  logLevel: 'warning',
});
const { fuzz } = await import(pathToFileURL(out).href),
  count = Number(process.argv[2] ?? 30000),
  broken = await fuzz(count, console.log);
for (const words of broken) console.log(`\nBROKEN ${words}`);
console.log(`${count} mutants, ${broken.length} promises broken`);
process.exit(broken.length > 0 ? 1 : 0);
