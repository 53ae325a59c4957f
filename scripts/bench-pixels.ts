// How near a demosaic, and what quiets noise, come to pictures run backwards into raws: ours and LibRaw's best, in one run. Prints JSON.
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { performance } from 'node:perf_hooks';
import sharp from 'sharp';
import { normal, seeded } from '@dyepot/camera/src/random.ts';
import { cellColours, type Exposure, type Shot } from '@dyepot/camera/src/sensor.ts';
import { writeDng } from '@dyepot/camera/src/dng.ts';
import { apply3, invert3, type Matrix3, type Vector3 } from '@dyepot/core/src/colour/matrix.ts';
import { encodeSrgb } from '@dyepot/core/src/colour/transfer.ts';
import { plateOffset, plateScale, halvePlate, makePlate } from '@dyepot/core/src/plate/plate.ts';
import { plainDetail, type Detail } from '@dyepot/core/src/groundwork/detail/detail.ts';
import { transfer, type Optics } from '@dyepot/core/src/groundwork/detail/optics.ts';
import { detailPlate } from '@dyepot/core/src/groundwork/detail/plate.ts';
import { usualNoise, type NoiseModel } from '@dyepot/core/src/groundwork/noise.ts';
import type { RawFacts, RawPixels } from '@dyepot/core/src/plate/mosaic.ts';
import { loadKernels, type Kernels } from '@dyepot/core/src/kernels/kernels.ts';
import { decodeRaw } from '@dyepot/server/src/decode/decode.ts';
import { photographsOf, type Picture } from './bench-photographs.ts';

type Developed = (i: number, c: number) => number;

/** A made-up camera: linear sRGB to its balanced colours (rows of sum one), and what it sees of a neutral. */
const seen: Matrix3 = [0.68, 0.26, 0.06, 0.18, 0.7, 0.12, 0.03, 0.27, 0.7],
  back = invert3(seen),
  neutral: Vector3 = [0.5, 1, 0.625],
  border = 8;
const shotAs: Exposure = { ev: 0, iso: 100, seed: 1, bits: 14, black: 512, pattern: 'RGGB', believedKelvin: 5500 };

/** The camera's own scenes at half their size, where what a demosaic made up has gone. */
async function scenesOf(kernels: Kernels, folder: string): Promise<Picture[]> {
  const files = readdirSync(folder).filter((f) => f.endsWith('.dng'));
  const all: Picture[] = [];
  for (const file of files.filter((_, i) => i % 2 === 0)) {
    const { raw, facts } = await decodeRaw(join(folder, file)),
      plate = halvePlate(kernels, makePlate(kernels, raw, facts)),
      [width, height] = [plate.width & ~1, plate.height & ~1],
      rgb = new Float64Array(width * height * 3),
      own = facts.profile.asShotNeutral;
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) {
        const camera = [0, 1, 2].map((c) => {
          const v = plate.data[(c * plate.height + y) * plate.width + x]!;
          return Math.min(1, Math.max(0, (v - plateOffset) / plateScale / own[c]!));
        }) as Vector3;
        rgb.set(
          apply3(back, camera).map((v) => Math.min(1, Math.max(0, v))),
          (y * width + x) * 3,
        );
      }
    all.push({ name: file, width, height, rgb });
  }
  return all;
}

const cells = cellColours('RGGB'),
  counts = (1 << shotAs.bits) - 1 - shotAs.black;
/** The raw of a picture: without noise, or with that of a sensitivity (photons of a full well of 60 000 at ISO 100, and reading out). */
function shoot({ width, height, rgb }: Picture, iso: number | null): Shot {
  const mosaic = new Uint16Array(width * height),
    random = seeded(7),
    well = (60000 * 100) / (iso ?? 100),
    read = 2.2 + 300 / (iso ?? 100);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const c = cells[(y & 1) * 2 + (x & 1)]!,
        i = (y * width + x) * 3,
        light = (seen[c * 3]! * rgb[i]! + seen[c * 3 + 1]! * rgb[i + 1]! + seen[c * 3 + 2]! * rgb[i + 2]!) * neutral[c]!,
        noise = iso === null ? 0 : normal(random) * Math.sqrt(light * well + read * read);
      mosaic[y * width + x] = Math.max(0, Math.round(shotAs.black + Math.min(1, light + noise / well) * counts));
    }
  return { width, height, mosaic, asShotNeutral: neutral, camera: new Float32Array(0) };
}
const reach = 8,
  side = 2 * reach + 1;
/** What aperture and filter leave, as a discrete kernel of 17 × 17. */
function spreadOf(optics: Optics, filterPx: number): Float64Array {
  const n = 64,
    kernel = new Float64Array(side * side);
  for (let v = 0; v < n; v++)
    for (let u = 0; u < n; u++) {
      const fu = (u < n / 2 ? u : u - n) / n,
        fv = (v < n / 2 ? v : v - n) / n,
        left = transfer(Math.hypot(fu, fv), optics, filterPx);
      for (let y = -reach; y <= reach; y++)
        for (let x = -reach; x <= reach; x++) kernel[(y + reach) * side + x + reach]! += left * Math.cos(2 * Math.PI * (fu * x + fv * y));
    }
  const sum = kernel.reduce((total, v) => total + v, 0);
  return kernel.map((v) => v / sum);
}
/** A plane through a kernel; beyond the border it goes on. */
function through(kernel: Float64Array, plane: Float64Array, width: number, height: number): Float64Array {
  const out = new Float64Array(plane.length);
  for (let j = -reach; j <= reach; j++)
    for (let i = -reach; i <= reach; i++) {
      const k = kernel[(j + reach) * side + i + reach]!;
      for (let y = 0; y < height; y++) {
        const row = Math.min(height - 1, Math.max(0, y + j)) * width;
        for (let x = 0; x < width; x++) out[y * width + x]! += k * plane[row + Math.min(width - 1, Math.max(0, x + i))]!;
      }
    }
  return out;
}
/** A picture as it falls on the sensor. */
function softened(picture: Picture, kernel: Float64Array): Picture {
  const { width, height, rgb } = picture,
    out = new Float64Array(rgb.length);
  for (let c = 0; c < 3; c++) {
    const plane = through(
      kernel,
      Float64Array.from({ length: width * height }, (_, i) => rgb[i * 3 + c]!),
      width,
      height,
    );
    plane.forEach((v, i) => (out[i * 3 + c] = v));
  }
  return { ...picture, rgb: out };
}
/** The luma of a developed picture by Richardson 1972 and Lucy 1974, its colours kept; after each of some numbers of rounds. */
function lucy({ width, height }: Picture, developed: Developed, kernel: Float64Array, rounds: readonly number[]): Developed[] {
  const n = width * height,
    luma = Float64Array.from({ length: n }, (_, i) => Math.max(1e-5, (developed(i, 0) + 2 * developed(i, 1) + developed(i, 2)) / 4)),
    found: Developed[] = [];
  let now = luma.slice();
  for (let round = 1; round <= Math.max(...rounds); round++) {
    const seen = through(kernel, now, width, height),
      // the kernel is the same turned about
      share = through(
        kernel,
        luma.map((v, i) => v / Math.max(1e-6, seen[i]!)),
        width,
        height,
      );
    now = now.map((v, i) => v * share[i]!);
    if (!rounds.includes(round)) continue;
    const kept = now.slice();
    found.push((i, c) => (developed(i, c) * kept[i]!) / luma[i]!);
  }
  return found;
}
/** PSNR in sRGB of balanced camera colours developed, all but a border. */
function psnr({ width, height, rgb }: Picture, at: (i: number, c: number) => number): number {
  let sum = 0,
    n = 0;
  for (let y = border; y < height - border; y++)
    for (let x = border; x < width - border; x++) {
      const i = y * width + x,
        developed = apply3(back, [at(i, 0), at(i, 1), at(i, 2)]);
      for (let c = 0; c < 3; c++) {
        const off = encodeSrgb(Math.min(1, Math.max(0, developed[c]!))) - encodeSrgb(rgb[i * 3 + c]!);
        sum += off * off;
        n++;
      }
    }
  return -10 * Math.log10(sum / n);
}

const [wasm, frames, folder] = process.argv.slice(2) as [string, string, string],
  kernels = await loadKernels(readFileSync(wasm)),
  work = mkdtempSync(join(tmpdir(), 'dyepot-pixels-')),
  list: { name: string; kind: 'photograph' | 'scene'; ours: number; libraw: Record<string, number> }[] = [];
const factsOf = (p: { width: number; height: number }): RawFacts => ({
  width: p.width,
  height: p.height,
  camera: '',
  lens: '',
  mosaic: 'Bayer RGGB',
  black: [shotAs.black, shotAs.black, shotAs.black, shotAs.black],
  white: (1 << shotAs.bits) - 1,
  quarterTurns: 0,
  profile: { colour: [], analogBalance: [1, 1, 1], asShotNeutral: neutral, baselineExposureEv: 0 },
  exif: { iso: 100, shutterSeconds: 1, aperture: 1, focalMm: 1, takenAt: null },
});
const pictures = [
  ...(await photographsOf(folder)).map((p) => ({ ...p, kind: 'photograph' as const })),
  ...(await scenesOf(kernels, frames)).map((p) => ({ ...p, kind: 'scene' as const })),
];
const noOptics: Optics = { aperture: null, pitchUm: null },
  both = (v: number): { fine: number; coarse: number } => ({ fine: v, coarse: v }),
  quiet: Detail = { ...plainDetail, noise: { ...plainDetail.noise, luma: both(2.1), colour: both(1.8) } };
const develop = ({ width, height }: Picture, shot: Shot, noise: NoiseModel | null, settings = quiet, optics = noOptics): Developed => {
  const raw = makePlate(kernels, { width, height, data: shot.mosaic, colours: 1, cell: cells }, factsOf({ width, height })),
    whole = { x: 0, y: 0, width, height },
    plate = noise ? detailPlate(kernels, { settings, noise, optics, mask: false }, 0, raw, whole, whole) : raw,
    n = width * height;
  return (i, c) => (plate.data[c * n + i]! - plateOffset) / plateScale / neutral[c]!;
};
const preview = await sharp({ create: { width: 16, height: 16, channels: 3, background: 'grey' } })
  .jpeg()
  .toBuffer();
const libraw = async ({ width, height }: Picture, shot: Shot, args: readonly string[]): Promise<Developed> => {
  const file = join(work, 'shot.dng');
  writeFileSync(
    file,
    writeDng(shot, shotAs, {
      compression: 'none',
      layout: 'strips',
      preview: { width: 16, height: 16, jpeg: preview },
      baselineExposureEv: 0,
      exif: { iso: 100, shutterSeconds: 1, aperture: 4, focalMm: 40, time: '2026:10:12 09:30:00' },
    }),
  );
  const balance = [1 / neutral[0], 1 / neutral[1], 1 / neutral[2], 1 / neutral[1]].map(String);
  execFileSync('dcraw_emu', [...args, '-4', '-T', '-c', '0', '-o', '0', '-r', ...balance, '-Z', `${file}.tiff`, file]);
  const { data, info } = await sharp(`${file}.tiff`).toColourspace('rgb16').raw({ depth: 'ushort' }).toBuffer({ resolveWithObject: true }),
    values = new Uint16Array(data.buffer, data.byteOffset, data.byteLength / 2);
  if (info.width !== width || info.height !== height) throw new Error(`LibRaw’s picture is ${info.width} × ${info.height}`);
  return (i, c) => values[i * 3 + c]! / 65535;
};
for (const picture of pictures) {
  const shot = shoot(picture, null),
    theirs: Record<string, number> = {};
  for (const q of ['3', '11', '12']) theirs[`-q ${q}`] = psnr(picture, await libraw(picture, shot, ['-q', q]));
  list.push({ name: picture.name, kind: picture.kind, ours: psnr(picture, develop(picture, shot, null)), libraw: theirs });
}
// noise, on some of the scenes: ours as it comes at 50, LibRaw's wavelets at their best for each picture
const noise: { name: string; iso: number; ours: number; none: number; libraw: number }[] = [];
for (const picture of pictures.filter((p) => p.kind === 'scene').slice(0, 6))
  for (const iso of [1600, 3200, 6400, 12800]) {
    const shot = shoot(picture, iso),
      wavelets = async (q: string, threshold: number): Promise<number> =>
        psnr(picture, await libraw(picture, shot, ['-q', q, '-n', String(threshold)]));
    const best: number[] = [],
      thresholds = [50, 100, 200, 400, 800, 1600];
    for (const threshold of thresholds) best.push(await wavelets('3', threshold));
    // the other demosaics at the threshold that serves best
    const threshold = thresholds[best.indexOf(Math.max(...best))]!;
    for (const q of ['11', '12']) best.push(await wavelets(q, threshold));
    noise.push({
      name: picture.name,
      iso,
      ours: psnr(picture, develop(picture, shot, usualNoise(iso))),
      none: psnr(picture, develop(picture, shot, null)),
      libraw: Math.max(...best),
    });
  }
// softness: the scenes through an aperture and a low-pass filter, before and after it is returned; against the scene as it was
const softness: { name: string; optics: string; iso: number; before: number; after: number; lucy: number | null }[] = [];
const lucyOf = pictures.filter((p) => p.kind === 'scene').slice(0, 2);
for (const picture of pictures.filter((p) => p.kind === 'scene').slice(0, 6))
  for (const [aperture, pitchUm, filterPx] of [
    [5.6, 6, 0.5],
    [11, 6, 0.4],
    [16, 6, 0],
    [22, 4.3, 0],
  ] as const)
    for (const iso of [100, 800]) {
      const kernel = spreadOf({ aperture, pitchUm }, filterPx),
        shot = shoot(softened(picture, kernel), iso),
        settings: Detail = { ...plainDetail, softness: { share: 1, aperture, pitchUm, filterPx } },
        plain = develop(picture, shot, null);
      softness.push({
        name: picture.name,
        optics: `f/${aperture}, ${pitchUm} µm, filter ${filterPx} px`,
        iso,
        before: psnr(picture, plain),
        after: psnr(picture, develop(picture, shot, usualNoise(iso), settings)),
        // slow: of two pictures
        lucy:
          picture === lucyOf[0] || picture === lucyOf[1]
            ? Math.max(...lucy(picture, plain, kernel, [2, 4, 8, 12]).map((d) => psnr(picture, d)))
            : null,
      });
    }
rmSync(work, { recursive: true });

// how fast, on 24 and on 6 megapixels
const sized = (width: number, height: number, work: (raw: RawPixels) => void): number => {
  const data = Uint16Array.from({ length: width * height }, (_, i) => 512 + (Math.imul(i, 2654435761) >>> 20) + (i % width)),
    times = [0, 1, 2].map(() => {
      const t = performance.now();
      work({ width, height, data, colours: 1, cell: cells });
      return performance.now() - t;
    });
  return (Math.min(...times) * 1e6) / (width * height);
};
const demosaicNanoseconds = sized(6000, 4000, (raw) => void makePlate(kernels, raw, factsOf(raw)));
const whole = { x: 0, y: 0, width: 3000, height: 2000 },
  plate = { ...whole, data: new Uint16Array(whole.width * whole.height * 3).map((_, i) => 4000 + (Math.imul(i, 2654435761) >>> 21)) },
  quietNanoseconds = sized(whole.width, whole.height, () => {
    detailPlate(kernels, { settings: quiet, noise: usualNoise(3200), optics: noOptics, mask: false }, 0, plate, whole, whole);
  });
console.log(JSON.stringify({ list, noise, softness, demosaicNanoseconds, quietNanoseconds }));
