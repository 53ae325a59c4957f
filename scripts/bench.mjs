// Measures speed beside a reference in the same run, and prints a table and JSON (.tmp/bench.json). npm run bench [-- --quick]
import { spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { performance } from 'node:perf_hooks';
import { fileURLToPath } from 'node:url';
import { build } from 'esbuild';
import { pixelRows } from './bench-pixel-rows.mjs';
import { twelveSteps } from './twelve-steps.mjs';
import { exactRows } from './bench-exact.mjs';
import { handRows } from './bench-hand-rows.mjs';
import { houseRows } from './bench-house.mjs';
import { matchRows } from './bench-match.mjs';
import { placeRows } from './bench-places.mjs';
import { buildServer } from './build.mjs';

const root = join(dirname(fileURLToPath(import.meta.url)), '..');
process.chdir(root);
for (const tool of ['dcraw_emu', 'vips'])
  if (!existsSync(`/usr/bin/${tool}`)) {
    console.log(`${tool} is missing: apt-get install libraw-bin libvips-tools`);
    process.exit(1);
  }
await buildServer();
mkdirSync('.tmp', { recursive: true });
const run = (command, args, options = {}) => {
  const t = performance.now(),
    r = spawnSync(command, args, { encoding: 'utf8', ...options });
  if (r.status !== 0) throw new Error(`${command} ${args.join(' ')}: ${r.stderr}`);
  return { seconds: (performance.now() - t) / 1000, out: r.stdout, err: r.stderr };
};
const work = mkdtempSync(join(tmpdir(), 'dyepot-bench-')),
  rows = [],
  median = (list) => [...list].sort((a, b) => a - b)[list.length >> 1];

// a set of 24-megapixel raws, its light rendered small and enlarged with detail
const count = process.argv.includes('--quick') ? 2 : 4,
  raws = Array.from({ length: count }, (_, i) => join(work, `big-${i}.dng`));
raws.forEach((out, i) =>
  run(process.execPath, [
    '--max-old-space-size=8000',
    'dist/camera.mjs',
    '--scene',
    'window-0',
    '--size',
    '6000x4000',
    '--light',
    '480x320',
    '--samples',
    '4',
    `--ev=${0.2 * i}`,
    '--iso',
    '200',
    '--seed',
    String(3),
    '--compression',
    'none',
    '--layout',
    'strips',
    '--out',
    out,
  ]),
);
const look = join(work, 'look.json'),
  base = JSON.parse(readFileSync('e2e/looks/weld-morning.json', 'utf8'));
writeFileSync(look, JSON.stringify(twelveSteps(base)));

const twoAtOnce = (jobs) => {
  const t = performance.now(),
    script = jobs.map((j) => `(${j})`);
  const r = spawnSync('xargs', ['-P2', '-I{}', 'sh', '-c', '{}'], { input: script.join('\n'), encoding: 'utf8' });
  if (r.status !== 0) throw new Error(r.stderr);
  return (performance.now() - t) / 1000;
};
const reference = [],
  ours = [];
for (let round = 0; round < 3; round++) {
  reference.push(
    twoAtOnce(raws.map((f) => `dcraw_emu -q 3 -w -T -Z ${f}.tif ${f} && vips jpegsave ${f}.tif ${f}.jpg --Q 92 && rm ${f}.tif`)) / count,
  );
  ours.push(
    run(process.execPath, ['dist/dyepot.mjs', 'render', ...raws, '--look', look, '--out', join(work, 'out'), '--quality', '92']).seconds /
      count,
  );
}
rows.push({
  what: `24 MP raw + twelve-step look → JPEG, ${count} frames on 2 cores`,
  ours: `${median(ours).toFixed(2)} s a frame`,
  reference: `dcraw_emu -q 3 + vips jpegsave ${median(reference).toFixed(2)} s`,
  ratio: median(ours) / median(reference),
  bar: 1.3,
});

// the same through every part of the groundwork
const groundFile = join(work, 'ground.json'),
  grounded = [];
writeFileSync(
  groundFile,
  JSON.stringify({
    format: 'dyepot-groundwork',
    version: 2,
    balance: { kind: 'own', kelvin: 5600, tintDuv: 0.002 },
    exposureEv: 0.3,
    zones: { ev: [0.6, 0.4, 0, -0.2, -0.5], bounds: [-4, -1.8, 0.8, 2.2] },
    ends: { black: 0.002, whiteEv: 3.1 },
    geometry: { straighten: 1.4, vertical: 6, crop: { x: 0.02, y: 0.02, width: 0.96, height: 0.96 } },
    lens: { distortion: 20, redSize: 15, blueSize: -10, cornerEv: 0.8 },
    detail: {
      noise: { luma: { fine: 1.3, coarse: 1.3 }, colour: { fine: 1.8, coarse: 1.8 } },
      softness: { share: 1, filterPx: 0.4 },
      sharpness: { gain: 1 },
    },
  }),
);
for (let round = 0; round < 2; round++)
  grounded.push(
    run(process.execPath, [
      'dist/dyepot.mjs',
      'render',
      ...raws,
      '--look',
      look,
      '--groundwork',
      groundFile,
      '--out',
      join(work, 'out'),
      '--quality',
      '92',
    ]).seconds / count,
  );
rows.push({
  what: 'the same with full groundwork (balance, zones, ends, lens and geometry in one warp, noise, sharpening)',
  ours: `${Math.min(...grounded).toFixed(2)} s a frame`,
  reference: 'as above',
  ratio: Math.min(...grounded) / median(reference),
  bar: 2.5,
});
// the same work by general tools: noise out, one resampling, sharpening
const sameWork =
  twoAtOnce(
    raws.map(
      (f) =>
        `dcraw_emu -q 3 -n 100 -w -T -Z ${f}.tif ${f} && vips affine ${f}.tif ${f}.2.tif "1.0003 0.0244 -0.0244 1.0003" --interpolate lbb && vips sharpen ${f}.2.tif ${f}.3.tif && vips jpegsave ${f}.3.tif ${f}.jpg --Q 92 && rm ${f}*.tif`,
    ),
  ) / count;
rows.push({
  what: 'full groundwork beside general tools that do the same work',
  ours: `${Math.min(...grounded).toFixed(2)} s a frame`,
  reference: `dcraw_emu -q 3 -n 100, vips affine, sharpen, jpegsave ${sameWork.toFixed(2)} s`,
  ratio: Math.min(...grounded) / sameWork,
  bar: 0.5,
});

const forBench = (name) =>
  build({
    entryPoints: { [name]: `scripts/${name}.ts` },
    bundle: true,
    platform: 'node',
    format: 'esm',
    packages: 'external',
    outdir: 'dist',
    outExtension: { '.js': '.mjs' },
    alias: Object.fromEntries(['core', 'camera', 'server'].map((p) => [`@dyepot/${p}`, join(root, 'packages', p)])),
    logLevel: 'error',
  });
await forBench('bench-film');
// with a stock and its grain, halation and a vignette on top of the twelve steps
const filmLook = join(work, 'film.json'),
  filmed = [],
  { look: film } = JSON.parse(run(process.execPath, ['dist/bench-film.mjs', look]).out);
writeFileSync(filmLook, JSON.stringify(film));
for (let round = 0; round < 2; round++)
  filmed.push(
    run(process.execPath, ['dist/dyepot.mjs', 'render', ...raws, '--look', filmLook, '--out', join(work, 'out'), '--quality', '92'])
      .seconds / count,
  );
rows.push({
  what: 'the twelve steps with stock, grain, halation and vignette',
  ours: `${Math.min(...filmed).toFixed(2)} s a frame`,
  reference: 'as above',
  ratio: Math.min(...filmed) / median(reference),
  bar: 2,
});

const timed = run(
  '/usr/bin/env',
  ['time', '-f', '%M', process.execPath, 'dist/dyepot.mjs', 'render', raws[0], '--look', look, '--out', join(work, 'one')],
  { shell: false },
);
const peak = Number(timed.err.trim().split('\n').pop()) / 1024;
if (Number.isFinite(peak))
  rows.push({
    what: 'memory of one 24 MP delivery, whole process',
    ours: `${peak.toFixed(0)} MB`,
    reference: '24 MP × 3 × 2 bytes = 144 MB',
    ratio: peak / 144,
    bar: 4,
  });

// import to first picture against LibRaw's decode alone
const data = join(work, 'data');
await forBench('bench-parts');
await forBench('bench-pixels');
const parts = JSON.parse(run(process.execPath, ['dist/bench-parts.mjs', raws[0], data]).out.trim().split('\n').pop());
rows.push({
  what: 'import a 24 MP raw to its first picture',
  ours: `${parts.importSeconds.toFixed(2)} s`,
  reference: `LibRaw decode ${parts.decodeSeconds.toFixed(2)} s`,
  ratio: parts.importSeconds / parts.decodeSeconds,
  bar: 3,
});
for (const { name, nanoseconds } of parts.kernels)
  rows.push({
    what: `kernel ${name}`,
    ours: `${nanoseconds.toFixed(1)} ns/pixel`,
    reference: `copy of the planes ${parts.copyNanoseconds.toFixed(1)} ns/pixel`,
    ratio: nanoseconds / parts.copyNanoseconds,
    bar: 30 / parts.copyNanoseconds,
  });

rows.push({
  what: 'a stock’s table made anew',
  ours: `${parts.tableMs.toFixed(0)} ms`,
  reference: '60 ms',
  ratio: parts.tableMs / 60,
  bar: 1,
});
for (const { name, ms, barMs } of parts.repairs)
  rows.push({ what: name, ours: `${ms.toFixed(0)} ms`, reference: `bar: ${barMs} ms`, ratio: ms / barMs, bar: 1 });

rows.push(...pixelRows(run));

if (existsSync('/usr/bin/chromium') && existsSync('dist/web')) rows.push(...handRows(run));
for (const { name, figure, unit, bar } of [
  ...(await houseRows()),
  ...(await matchRows()),
  ...(await exactRows(raws[0], twelveSteps(base))),
  ...(await placeRows(twelveSteps(base))),
]) {
  const more = unit === 'frames a second' || name.endsWith('at least)');
  rows.push({
    what: name,
    ours: `${figure} ${unit}`,
    reference: `bar: ${bar} ${unit}`,
    ratio: more ? bar / figure : bar === 0 ? 2 * figure : figure / bar,
    bar: 1,
  });
}
rmSync(work, { recursive: true, force: true });
writeFileSync('.tmp/bench.json', JSON.stringify(rows, null, 2));
console.table(
  rows.map((r) => ({
    ...r,
    ratio: r.ratio.toFixed(2),
    bar: r.bar === null ? 'none set' : r.bar.toFixed(2),
    within: r.bar === null ? '' : r.ratio <= r.bar ? 'yes' : 'NO',
  })),
);
console.log(JSON.stringify(rows));
