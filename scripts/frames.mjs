// Makes the demo shoot's raw files (packages/camera/frames). Rendering the light takes about three hours on two cores; it is
// kept in DYEPOT_LIGHTS, so that exposures can be taken again in seconds.
import { spawn } from 'node:child_process';
import { readFileSync, rmSync, writeFileSync } from 'node:fs';
import sharp from 'sharp';
import { buildServer } from './build.mjs';

const lights = process.env.DYEPOT_LIGHTS ?? '/tmp/dyepot-lights';
// name, scene, exposure drift EV, what the camera believed of the light in kelvin, ISO, time, quarter of an hour
const frames = [
  ['TR-0412', 'window-0', 0.1, 6500, 200, '09:12'],
  ['TR-0413', 'window-1', -0.35, 6150, 200, '09:20'],
  ['TR-0415', 'window-2', 0.3, 6900, 400, '09:31'],
  ['TR-0419', 'window-3', 0.15, 6300, 200, '09:40'],
  ['TR-0437', 'vat-0', 0.25, 3150, 800, '11:05'],
  ['TR-0438', 'vat-1', 0.1, 3000, 800, '11:09'],
  ['TR-0440', 'vat-2', 0.2, 3350, 1600, '11:18'],
  ['TR-0444', 'vat-3', 0.0, 2850, 800, '11:26'],
  ['TR-0451', 'dusk-0', 0.15, 6300, 200, '18:02'],
  ['TR-0452', 'dusk-1', 0.45, 6000, 400, '18:08'],
  ['TR-0455', 'dusk-2', 0.3, 6500, 400, '18:14'],
  ['TR-0466', 'moor-0', 0.85, 5500, 100, '07:15'],
  ['TR-0468', 'moor-1', 0.6, 5850, 100, '07:24'],
  ['TR-0470', 'moor-2', 0.5, 5300, 100, '07:31'],
  ['TR-0472', 'moor-3', 0.5, 5600, 100, '07:38'],
  ['TR-0421', 'window-4', 0.1, 6350, 200, '09:52'],
  ['TR-0481', 'shore-0', 0.1, 5500, 100, '10:20'],
  ['TR-0490', 'front-0', 0.25, 5900, 100, '09:05'],
];
const days = { window: 12, vat: 12, dusk: 12, moor: 14, shore: 15, front: 16 };
const patterns = ['RGGB', 'BGGR', 'GRBG', 'GBRG'];
const wanted = process.argv.slice(2);
await buildServer();
let next = 0;
async function worker() {
  while (next < frames.length) {
    const i = next++,
      [name, scene, ev, believed, iso, time] = frames[i];
    if (wanted.length > 0 && !wanted.includes(scene)) continue;
    const out = `packages/camera/frames/${name}.dng`;
    const args = [
      '--max-old-space-size=8000',
      'dist/camera.mjs',
      '--scene',
      scene,
      `--ev=${ev}`,
      '--believed',
      String(believed),
      '--iso',
      String(iso),
      '--seed',
      '3',
      '--samples',
      '12',
      '--out',
      out,
      '--truth',
      `${out}.things.png`,
      '--lights',
      lights,
      '--time',
      `2026:10:${days[scene.split('-')[0]]} ${time}:00`,
      '--pattern',
      patterns[i % 4],
      '--bits',
      i % 5 === 4 ? '12' : '14',
      '--layout',
      i % 3 === 2 ? 'strips' : 'tiles',
    ];
    await new Promise((resolve, reject) =>
      spawn(process.execPath, args, { stdio: 'inherit' }).on('exit', (code) =>
        code === 0 ? resolve() : reject(new Error(`${name} failed`)),
      ),
    );
    // what each place is, small: which of them a region that is found should have
    await sharp(`${out}.things.png`)
      .resize(408, 272, { kernel: 'nearest', fit: 'fill' })
      .png({ palette: true, colours: 8, dither: 0 })
      .toFile(out.replace('.dng', '.things.png'));
    rmSync(`${out}.things.png`);
    const truthFile = out.replace('.dng', '.truth.json'),
      truth = JSON.parse(readFileSync(truthFile, 'utf8'));
    writeFileSync(
      truthFile,
      `${JSON.stringify({ ...truth, scene, light: scene.split('-')[0], ...(scene === 'dusk-0' ? { lead: true } : {}) }, null, 2)}\n`,
    );
  }
}
await Promise.all([worker(), worker()]);
