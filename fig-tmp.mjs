import { execFileSync } from 'node:child_process';
import sharp from 'sharp';
const help = (() => { try { return execFileSync('node', ['dist/camera.mjs', '--help'], { encoding: 'utf8' }); } catch (e) { return e.stdout + e.stderr; } })();
const c = (w) => new RegExp(w + ' (\\d+) (\\d+) (\\d+)').exec(help).slice(1, 4).map(Number);
const kinds = [c('figure'), c('skin')];
for (const n of process.argv.slice(2)) {
  const t0 = await sharp(`packages/camera/frames/${n}.things.png`).removeAlpha().raw().toBuffer({ resolveWithObject: true });
  const { width: W, height: H } = t0.info; let x0 = W, x1 = 0, y0 = H, y1 = 0;
  const tr = (b, k) => kinds.some((q) => b[k * 3] === q[0] && b[k * 3 + 1] === q[1] && b[k * 3 + 2] === q[2]);
  for (let y = 0; y < H; y++) for (let x = 0; x < W; x++) if (tr(t0.data, y * W + x)) { x0 = Math.min(x0, x); x1 = Math.max(x1, x); y0 = Math.min(y0, y); y1 = Math.max(y1, y); }
  const g = 0.01, left = Math.max(0, x0 / W - g), top = Math.max(0, y0 / H - g), right = Math.min(1, (x1 + 1) / W + g), bottom = Math.min(1, (y1 + 1) / H + g);
  const box = [left, top, right - left, bottom - top].map((v) => v.toFixed(4)).join();
  execFileSync('node', ['dist/dyepot.mjs', 'mask', `packages/camera/frames/${n}.dng`, '--find', 'figure:' + box, '--out', `.tmp/${n}-fig.png`], { stdio: 'pipe' });
  const a = await sharp(`.tmp/${n}-fig.png`).greyscale().raw().toBuffer({ resolveWithObject: true });
  const t = await sharp(`packages/camera/frames/${n}.things.png`).removeAlpha().resize(a.info.width, a.info.height, { kernel: 'nearest', fit: 'fill' }).raw().toBuffer();
  let i = 0, u = 0, fp = 0, fn = 0; const w = a.info.width, out = Buffer.alloc(w * a.info.height * 3);
  for (let k = 0; k < w * a.info.height; k++) { const on = a.data[k * a.info.channels] > 127, T = tr(t, k); if (on && T) i++; if (on || T) u++; if (on && !T) { fp++; out[k * 3] = 255; } else if (!on && T) { fn++; out[k * 3 + 2] = 255; } else if (on) out[k * 3 + 1] = 120; }
  console.log(n, box, 'IoU', (i / u).toFixed(3), 'fp', (fp / u).toFixed(3), 'fn', (fn / u).toFixed(3));
  await sharp(out, { raw: { width: w, height: a.info.height, channels: 3 } }).resize(700).png().toFile(`.tmp/${n}-fig-d.png`);
  execFileSync('node', ['dist/dyepot.mjs', 'render', `packages/camera/frames/${n}.dng`, '--look', 'e2e/looks/weld-morning.json', '--out', '.tmp/out', '--size', '700', '--replace']);
  await sharp({ create: { width: 1400, height: 467, channels: 3, background: '#888' } }).composite([{ input: await sharp(`.tmp/out/${n}.jpg`).toBuffer(), left: 0, top: 0 }, { input: await sharp(`.tmp/${n}-fig-d.png`).toBuffer(), left: 700, top: 0 }]).png().toFile(`.tmp/${n}-both.png`);
}
