// Builds everything: kernels, the server's and the command line's bundles, and the web pages (unless --no-web).
import { execFileSync } from 'node:child_process';
import { mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join, dirname } from 'node:path';
import { fileURLToPath } from 'node:url';
import { brotliCompressSync } from 'node:zlib';
import { gzipAsync } from '@gfx/zopfli';
import { build } from 'esbuild';
import { compileNative } from './native/index.mjs';

const root = join(dirname(fileURLToPath(import.meta.url)), '..');
const run = (...args) => execFileSync(process.execPath, args, { cwd: root, stdio: ['ignore', 'ignore', 'inherit'] });
mkdirSync(join(root, 'dist'), { recursive: true });

export async function buildServer() {
  // pieces of earlier builds, whose names change with what is in them
  for (const old of readdirSync(join(root, 'dist')).filter((f) => /\.mjs(\.map)?$/.test(f))) rmSync(join(root, 'dist', old));
  run(
    'node_modules/assemblyscript/bin/asc.js',
    'packages/core/kernels/index.ts',
    '-O3',
    '--enable',
    'simd',
    '--runtime',
    'stub',
    '--noAssert',
    '--outFile',
    'packages/core/src/render/kernels.wasm',
    '--textFile',
    'dist/kernels.wat',
  );
  const native = compileNative(join(root, 'dist/kernels.wat'), join(root, 'dist/kernels.node'));
  await build({
    absWorkingDir: root,
    bundle: true,
    splitting: true,
    platform: 'node',
    format: 'esm',
    target: 'node20',
    packages: 'external',
    outdir: 'dist',
    outExtension: { '.js': '.mjs' },
    logLevel: 'warning',
    sourcemap: true,
    alias: {
      '@dyepot/core': join(root, 'packages/core'),
      '@dyepot/camera': join(root, 'packages/camera'),
      '@dyepot/server': join(root, 'packages/server'),
    },
    entryPoints: {
      'decode-worker': 'packages/server/src/decode/worker.ts',
      'render-worker': 'packages/server/src/work/worker.ts',
      dyepot: 'packages/cli/src/main.ts',
      camera: 'packages/camera/src/main.ts',
      seed: 'packages/server/src/seed.ts',
    },
  });
  const why = await native;
  if (why) console.log(`The kernels are not compiled for this machine, and run as WebAssembly: ${why}`);
}
export async function buildWeb() {
  const vite = await import('vite');
  await vite.build({ root: join(root, 'packages/web'), logLevel: 'warn' });
  // small forms lie beside the files, so that none is made at each request
  const assets = join(root, 'dist/web/assets');
  for (const name of readdirSync(assets).filter((f) => /\.(js|css|wasm)$/.test(f))) {
    const bytes = readFileSync(join(assets, name));
    // a few percent smaller than zlib's, for some seconds once
    writeFileSync(join(assets, `${name}.gz`), await gzipAsync(bytes, { numiterations: 5 }));
    writeFileSync(join(assets, `${name}.br`), brotliCompressSync(bytes));
  }
}

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  // the pages need the kernels' WebAssembly, which is there once the server's files are begun
  await Promise.all([buildServer(), process.argv.includes('--no-web') ? null : buildWeb()]);
}
