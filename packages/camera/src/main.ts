import { mkdirSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { tmpdir } from 'node:os';
import { parseArgs } from 'node:util';
import { wideZoom } from './glass.ts';
import { marks, wires } from './blemish.ts';
import { motes } from './dust.ts';
import { keptLight } from './render-light.ts';
import { take } from './take.ts';
import { tether } from './tether.ts';
import { thingColours, truthPicture } from './truth.ts';

/** `npm run camera`: renders a scene's light (kept for the next time) and takes a raw picture of it. */
const { values } = parseArgs({
  options: {
    scene: { type: 'string' },
    size: { type: 'string', default: '1632x1088' },
    ev: { type: 'string', default: '0' },
    kelvin: { type: 'string' },
    believed: { type: 'string' },
    iso: { type: 'string', default: '200' },
    seed: { type: 'string', default: '3' },
    samples: { type: 'string', default: '8' },
    out: { type: 'string' },
    pattern: { type: 'string', default: 'RGGB' },
    bits: { type: 'string', default: '14' },
    compression: { type: 'string', default: 'lossless' },
    layout: { type: 'string', default: 'tiles' },
    time: { type: 'string' },
    lights: { type: 'string', default: join(tmpdir(), 'dyepot-lights') },
    light: { type: 'string' },
    lens: { type: 'string' },
    truth: { type: 'string' },
    dust: { type: 'string' },
    marks: { type: 'string' },
    wires: { type: 'string' },
    'dust-seed': { type: 'string', default: '1' },
    tether: { type: 'string' },
    every: { type: 'string', default: '5' },
    count: { type: 'string', default: '20' },
    help: { type: 'boolean', default: false },
  },
});
const fail = (message: string): never => {
  process.stderr.write(`camera: ${message}\n`);
  process.exit(2);
};
if (values.help) {
  const colours = Object.entries(thingColours).map(([thing, rgb]) => `${thing} ${rgb.join(' ')}`);
  process.stdout.write(
    `npm run camera -- --scene NAME --out FILE.dng [--size WxH] [--ev EV] [--iso ISO] [--seed N] [--lens wide|wide-silent] [--dust COUNT [--dust-seed N]] [--marks COUNT] [--wires COUNT] [--truth OUT.png]\nnpm run camera -- --scene NAME --tether DIR [--every SECONDS] [--count N]\n\n--tether shoots into a folder, each picture a little lighter or darker than the last, written as a card is read: bit by bit.\n--marks and --wires lie upon what is seen, --dust on the sensor; where, is said in FILE.truth.json.\n--truth writes what each pixel is, in flat colours: ${colours.join(', ')}.\n`,
  );
  process.exit(0);
}
const number = (name: keyof typeof values): number => {
  const v = Number(values[name]);
  return Number.isFinite(v) ? v : fail(`--${name} takes a number, not “${values[name]}”`);
};
const scene = values.scene ?? fail('--scene NAME is needed, such as window-0');
const out = values.out ?? (values.tether ? '' : fail('--out FILE.dng is needed, or --tether DIR'));
const size = /^(\d+)x(\d+)$/.exec(values.size) ?? fail('--size takes WIDTHxHEIGHT');
const [width, height] = [Number(size[1]), Number(size[2])] as [number, number];
// light larger than about 2 megapixels is enlarged, with procedural detail
const lightSize = /^(\d+)x(\d+)$/.exec(values.light ?? '');
const scale = Math.min(1, 1632 / Math.max(width, height));
const lw = lightSize ? Number(lightSize[1]) : Math.round(width * scale),
  lh = lightSize ? Number(lightSize[2]) : Math.round(height * scale);
const pattern = values.pattern,
  compression = values.compression,
  layout = values.layout;
if (pattern !== 'RGGB' && pattern !== 'BGGR' && pattern !== 'GRBG' && pattern !== 'GBRG') fail('--pattern takes RGGB, BGGR, GRBG or GBRG');
if (compression !== 'none' && compression !== 'lossless') fail('--compression takes none or lossless');
if (layout !== 'strips' && layout !== 'tiles') fail('--layout takes strips or tiles');
if (values.bits !== '12' && values.bits !== '14') fail('--bits takes 12 or 14');
if (values.lens !== undefined && values.lens !== 'wide' && values.lens !== 'wide-silent')
  fail('--lens takes wide (a zoom with its faults, which the file says how to undo) or wide-silent');
const light = keptLight(values.lights, scene, lw, lh, number('samples'), values.kelvin ? number('kelvin') : null, number('seed'), (share) =>
  process.stderr.write(`\rrendering light ${Math.round(share * 100)} %`),
);
const shot = (ev: number, seed: number): ReturnType<typeof take> =>
  take(light, {
    width,
    height,
    ev,
    iso: number('iso'),
    seed,
    bits: values.bits === '12' ? 12 : 14,
    black: values.bits === '12' ? 128 : 512,
    pattern: pattern as 'RGGB',
    compression: compression as 'none',
    layout: layout as 'tiles',
    believedKelvin: values.believed ? number('believed') : light.kelvin,
    ...(values.time ? { time: values.time } : {}),
    ...(values.dust ? { dust: motes(number('dust'), number('dust-seed')) } : {}),
    ...(values.marks ? { marks: marks(number('marks'), number('seed')) } : {}),
    ...(values.wires ? { wires: wires(number('wires'), number('seed')) } : {}),
    ...(values.lens ? { lens: wideZoom, silent: values.lens === 'wide-silent' } : {}),
  });
if (values.tether) {
  await tether(values.tether, shot, { every: number('every'), count: number('count'), ev: number('ev'), seed: number('seed') });
  process.exit(0);
}
const picture = await shot(number('ev'), number('seed'));
mkdirSync(dirname(out), { recursive: true });
writeFileSync(out, picture.file);
if (values.truth) {
  mkdirSync(dirname(values.truth), { recursive: true });
  writeFileSync(values.truth, await truthPicture(scene, width, height, number('seed')));
}
writeFileSync(out.replace(/\.dng$/i, '.truth.json'), `${JSON.stringify(picture.truth, null, 2)}\n`);
process.stderr.write(`\r${out}: ${width} × ${height}\n`);
