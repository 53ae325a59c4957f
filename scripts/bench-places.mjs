// Where: what is found beside what the simulated camera knows is there, and what eight masked steps cost at 24 megapixels. Rows for the bench.
import { execFileSync, spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { performance } from 'node:perf_hooks';
import sharp from 'sharp';

const frames = 'packages/camera/frames',
  [width, height] = [408, 272],
  /** the colours `npm run camera -- --truth` names */
  colours = { sky: ['0,96,255'], foliage: ['0,160,0'], figure: ['255,0,160', '255,160,120'] },
  work = mkdtempSync(join(tmpdir(), 'dyepot-places-'));
const told = (...args) => {
  const r = spawnSync(process.execPath, ['dist/dyepot.mjs', ...args], { encoding: 'utf8' });
  if (r.status !== 0) throw new Error(r.stderr);
};
async function truthOf(name, what) {
  const rgb = await sharp(join(frames, `${name}.things.png`))
    .removeAlpha()
    .toColourspace('srgb')
    .raw()
    .toBuffer();
  return Uint8Array.from({ length: width * height }, (_, i) => (colours[what].includes(rgb.subarray(3 * i, 3 * i + 3).join()) ? 1 : 0));
}
/** The box that lies closest round what is there, as the command line takes it. */
function boxOf(truth) {
  const at = [...truth.keys()].filter((i) => truth[i]),
    [xs, ys] = [at.map((i) => i % width), at.map((i) => Math.floor(i / width))],
    [left, right] = [Math.min(...xs) / width, (Math.max(...xs) + 1) / width],
    [top, bottom] = [Math.min(...ys) / height, (Math.max(...ys) + 1) / height];
  return [left, top, right - left, bottom - top].map((v) => v.toFixed(4)).join();
}
/** Intersection over union of what is found with what is there, frame by frame that shows enough of it. */
async function overlaps(what, least) {
  const out = {};
  for (const name of readdirSync(frames).flatMap((f) => /^(.*)\.dng$/.exec(f)?.[1] ?? [])) {
    const truth = await truthOf(name, what),
      file = join(work, `${what}.png`);
    if (truth.reduce((sum, v) => sum + v, 0) < least * truth.length) continue;
    told('mask', join(frames, `${name}.dng`), '--find', what === 'figure' ? `figure:${boxOf(truth)}` : what, '--out', file);
    const found = await sharp(file).resize(width, height, { fit: 'fill' }).greyscale().raw().toBuffer();
    let [both, any] = [0, 0];
    truth.forEach((t, i) => {
      const f = found[i] > 127;
      if (f && t) both++;
      if (f || t) any++;
    });
    out[name] = both / any;
  }
  return out;
}

const common = { mode: 'add', opacity: 1, inverted: false },
  maskOf = (parts, snap = 0) => ({ parts, inverted: false, feather: 0, grow: 0, snap }),
  /** a hand's strokes across the picture, one under the other */
  painted = (from, to, count) => ({
    ...common,
    kind: 'brush',
    strokes: Array.from({ length: count }, (_, j) => ({
      erase: false,
      size: 0.05,
      feather: 0.6,
      flow: 0.8,
      points: Array.from({ length: 20 }, (_, i) => [
        1000 + 400 * i,
        Math.round(from + ((to - from) * j) / count + 600 * Math.sin(i / 2)),
        100,
      ]).flat(),
    })),
  }),
  pool = (x, y, r) => ({ ...common, kind: 'radial', centre: [x, y], radii: [r, 0.7 * r], turn: 20, feather: 0.6 }),
  slope = (from, to) => ({ ...common, kind: 'gradient', from, to, middle: 0.5 }),
  masks = [
    maskOf([painted(1500, 3500, 30)]),
    maskOf([painted(4000, 5500, 30)]),
    maskOf([{ ...common, kind: 'found', what: 'sky' }], 0.5),
    maskOf([slope([0.5, 1], [0.5, 0])]),
    maskOf([pool(0.5, 0.5, 0.3)]),
    maskOf([slope([0, 0.5], [1, 0.5])]),
    maskOf([pool(0.3, 0.4, 0.2)]),
    maskOf([pool(0.7, 0.6, 0.3), { ...slope([0.5, 1], [0.5, 0.4]), mode: 'subtract' }]),
  ];
/** Seconds for a 24-megapixel frame of the dusk with eight steps, each in a place of its own, and the same without places. */
function eightMasked(look) {
  const raw = join(work, 'dusk.dng'),
    light = ['--size', '6000x4000', '--light', '480x320', '--samples', '4'],
    file = ['--ev=0', '--iso', '200', '--seed', '3', '--compression', 'none', '--layout', 'strips', '--out', raw];
  execFileSync(process.execPath, ['--max-old-space-size=8000', 'dist/camera.mjs', '--scene', 'dusk-0', ...light, ...file]);
  const [scene, print] = [look.scene.slice(0, 4), look.print.slice(0, 4)],
    seconds = { masked: [], plain: [] };
  for (let round = 0; round < 3; round++)
    for (const kind of ['masked', 'plain']) {
      const local = join(work, `${kind}.json`),
        placed = (steps, from) => steps.map((s, i) => ({ ...s, mask: kind === 'masked' ? masks[from + i] : null }));
      writeFileSync(
        local,
        JSON.stringify({ format: 'dyepot-local', version: 1, scene: placed(scene, 0), print: placed(print, 4), skeins: [], masks: [] }),
      );
      const t = performance.now();
      told('render', raw, '--look', 'none', '--local', local, '--out', join(work, 'out'), '--quality', '92');
      seconds[kind].push((performance.now() - t) / 1000);
    }
  return seconds;
}

const median = (list) => [...list].sort((a, b) => a - b)[list.length >> 1],
  row = (name, figure, unit, bar) => ({ name, figure: Math.round(figure * 1000) / 1000, unit, bar });
/** Rows of what is found, the least of all frames with each frame's own beside it, and of what places cost. */
export async function placeRows(look) {
  const rows = [];
  for (const [what, least, bar] of [
    ['sky', 0.01, 0.9],
    ['figure', 0.002, 0.9],
    ['foliage', 0.02, 0.8],
  ]) {
    const each = await overlaps(what, least),
      all = Object.values(each);
    rows.push(row(`${what} found, in the mean: intersection over union (at least)`, all.reduce((a, b) => a + b, 0) / all.length, '', bar));
    for (const [name, v] of Object.entries(each)) rows.push(row(`${what} on ${name} (at least)`, v, '', bar));
  }
  const { masked, plain } = eightMasked(look);
  rows.push(row('24 MP, eight steps each in a place of its own, over the same everywhere', median(masked) / median(plain), 'times', 1.5));
  rmSync(work, { recursive: true, force: true });
  return rows;
}
if (process.argv[1]?.endsWith('bench-places.mjs')) {
  if (!existsSync('dist/dyepot.mjs')) execFileSync(process.execPath, ['scripts/build.mjs', '--no-web']);
  const { twelveSteps } = await import('./twelve-steps.mjs');
  console.table(await placeRows(twelveSteps(JSON.parse(readFileSync('e2e/looks/weld-morning.json', 'utf8')))));
}
