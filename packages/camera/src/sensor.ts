import { noise3, normal, seeded } from './random.ts';
import type { Light } from './render-light.ts';
import { bands, dot, lightOf, observer, solve, spectrum, type Spectrum } from './spectrum.ts';

const bell = (nm: number, peak: number, width: number): number => Math.exp(-0.5 * ((nm - peak) / width) ** 2);
/** Spectral sensitivity of the red, green and blue filtered photosites; green is the most sensitive. */
export const sensitivity: readonly [Spectrum, Spectrum, Spectrum] = [
  spectrum((nm) => 0.78 * bell(nm, 602, 33) + 0.05 * bell(nm, 440, 25)),
  spectrum((nm) => 1.0 * bell(nm, 537, 40) + 0.02 * bell(nm, 620, 40)),
  spectrum((nm) => 0.86 * bell(nm, 459, 29) + 0.03 * bell(nm, 540, 40)),
].map((s) => s.map((v) => v / 4.9)) as unknown as readonly [Spectrum, Spectrum, Spectrum];

/** Camera RGB of a neutral under a light, green = 1. */
export function neutralOf(light: Spectrum): [number, number, number] {
  const [r, g, b] = sensitivity.map((s) => dot(s, light)) as [number, number, number];
  return [r / g, 1, b / g];
}

/**
 * The reflectances the matrices are fitted to: smooth edges and bands of every wavelength, depth and lightness, of the
 * kind of most dyes and pigments. The chart is not among them, so that photographing it is a fair trial.
 */
const samples: readonly Spectrum[] = (() => {
  const rise = (nm: number, at: number): number => 1 / (1 + Math.exp((at - nm) / 18)),
    list: Spectrum[] = [];
  for (const [base, depth] of [
    [0.05, 0.8],
    [0.12, 0.45],
    [0.3, 0.3],
    [0.06, 0.2],
  ] as const) {
    for (let at = 430; at <= 650; at += 20)
      list.push(
        spectrum((nm) => base + depth * rise(nm, at)),
        spectrum((nm) => base + depth * (1 - rise(nm, at))),
      );
    for (let at = 440; at <= 640; at += 25)
      for (const width of [50, 100])
        list.push(
          spectrum((nm) => base + depth * rise(nm, at - width / 2) * (1 - rise(nm, at + width / 2))),
          spectrum((nm) => base + depth * (1 - rise(nm, at - width / 2) * (1 - rise(nm, at + width / 2)))),
        );
  }
  return list;
})();
const grey = new Float64Array(bands).fill(0.18);

/**
 * The matrix from XYZ to camera RGB that fits those reflectances best under a light (least squares over
 * relative error), with the light's white kept exactly; scaled so that the light's white gives camera maximum 1.
 */
export function colourMatrix(light: Spectrum): number[] {
  const out: number[] = [];
  for (const s of sensitivity) {
    const rows = Array.from({ length: 3 }, () => new Float64Array(4));
    for (const r of [...samples, grey]) {
      const lit = r.map((v, b) => v * light[b]!),
        xyz = observer.map((o) => dot(o, lit)),
        camera = dot(s, lit),
        w = (r === grey ? samples.length : 1) / (xyz[1]! + 0.02) ** 1.2;
      for (let a = 0; a < 3; a++) {
        for (let b = 0; b < 3; b++) rows[a]![b]! += w * xyz[a]! * xyz[b]!;
        rows[a]![3]! += w * xyz[a]! * camera;
      }
    }
    out.push(...solve(rows));
  }
  const white = observer.map((o) => dot(o, light));
  const top = Math.max(...[0, 1, 2].map((r) => out[r * 3]! * white[0]! + out[r * 3 + 1]! * white[1]! + out[r * 3 + 2]! * white[2]!));
  return out.map((v) => v / top);
}

/**
 * The matrix from balanced camera RGB to XYZ under D50 (a DNG ForwardMatrix): what those reflectances look
 * like under D50, fitted from what the camera sees of them under a light. Balanced white goes to D50's white exactly.
 */
export function forwardMatrix(light: Spectrum): number[] {
  const d50Light = lightOf(5003),
    neutral = neutralOf(light),
    white = observer.map((o) => dot(o, d50Light)),
    pcs = [0.9642, 1, 0.8249],
    green = dot(sensitivity[1], light);
  const seen = samples.map((r) => ({
    camera: sensitivity.map(
      (s, c) =>
        dot(
          s,
          r.map((v, b) => v * light[b]!),
        ) /
        (green * neutral[c]!),
    ),
    xyz: observer.map(
      (o, k) =>
        (dot(
          o,
          r.map((v, b) => v * d50Light[b]!),
        ) /
          white[k]!) *
        pcs[k]!,
    ),
  }));
  return [0, 1, 2].flatMap((k) => {
    const rows = Array.from({ length: 3 }, () => new Float64Array(4));
    for (const { camera, xyz } of [...seen, ...Array.from({ length: samples.length }, () => ({ camera: [1, 1, 1], xyz: pcs }))]) {
      const w = 1 / (xyz[1]! + 0.03) ** 1.2;
      for (let a = 0; a < 3; a++) {
        for (let b = 0; b < 3; b++) rows[a]![b]! += w * camera[a]! * camera[b]!;
        rows[a]![3]! += w * camera[a]! * xyz[k]!;
      }
    }
    const row = [...solve(rows)],
      sum = row[0]! + row[1]! + row[2]!;
    return row.map((v) => (v * pcs[k]!) / sum);
  });
}

export interface Exposure {
  ev: number;
  iso: number;
  seed: number;
  bits: 12 | 14;
  black: number;
  /** order of the 2 × 2 cell, from the top left */
  pattern: 'RGGB' | 'BGGR' | 'GRBG' | 'GBRG';
  /** what the camera's automatic white balance believed, in kelvin; the truth is the light's own */
  believedKelvin: number;
}
export interface Shot {
  width: number;
  height: number;
  mosaic: Uint16Array;
  asShotNeutral: [number, number, number];
  camera: Float32Array;
}

/** Takes away lone bright pixels, left where few paths found a strong light: none may outshine its second-brightest neighbour by half. */
function removeSparks(rgb: Float32Array, width: number, height: number): void {
  const before = rgb.slice();
  for (let y = 1; y < height - 1; y++)
    for (let x = 1; x < width - 1; x++)
      for (let c = 0; c < 3; c++) {
        let first = 0,
          second = 0;
        for (let j = -1; j <= 1; j++)
          for (let i = -1; i <= 1; i++) {
            if (i === 0 && j === 0) continue;
            const v = before[((y + j) * width + x + i) * 3 + c]!;
            if (v > first) {
              second = first;
              first = v;
            } else if (v > second) second = v;
          }
        const at = (y * width + x) * 3 + c;
        rgb[at] = Math.min(before[at]!, second * 1.5);
      }
}

/** The low-pass filter in front of the sensor: a Gaussian of 0.55 pixels, so that a thread thinner than a photosite makes little false colour. */
function lowPass(rgb: Float32Array, width: number, height: number): Float32Array {
  const side = 0.138,
    centre = 1 - 2 * side,
    pass = (from: Float32Array, step: number, last: number, at: (i: number) => number): Float32Array =>
      from.map((v, i) => {
        const k = at(i);
        return centre * v + side * (from[k > 0 ? i - step : i]! + from[k < last ? i + step : i]!);
      });
  const across = pass(rgb, 3, width - 1, (i) => Math.floor(i / 3) % width);
  return pass(across, width * 3, height - 1, (i) => Math.floor(i / (3 * width)));
}

/**
 * Camera RGB (linear, 1 = full well at base exposure) of rendered light at another size, with fine procedural detail when larger;
 * and what the camera's meter made of the light, in EV: it brings the mean of log green of each frame to one value.
 */
export function cameraLight(light: Light, width: number, height: number): { camera: Float32Array; meteredEv: number } {
  const { width: w, height: h, bands: values } = light;
  let small: Float32Array = new Float32Array(w * h * 3);
  let logs = 0;
  for (let i = 0; i < w * h; i++) {
    const one = values.subarray(i * bands, i * bands + bands);
    for (let c = 0; c < 3; c++) small[i * 3 + c] = dot(sensitivity[c]!, one);
    logs += Math.log(small[i * 3 + 1]! + 1e-4);
  }
  removeSparks(small, w, h);
  small = lowPass(small, w, h);
  const gain = 0.085 / Math.exp(logs / (w * h)),
    meteredEv = Math.log2(gain);
  if (width === w && height === h) return { camera: small.map((v) => v * gain), meteredEv };
  const out = new Float32Array(width * height * 3);
  for (let y = 0; y < height; y++) {
    const sy = Math.min(h - 1.001, Math.max(0, ((y + 0.5) * h) / height - 0.5)),
      y0 = Math.floor(sy),
      ty = sy - y0;
    for (let x = 0; x < width; x++) {
      const sx = Math.min(w - 1.001, Math.max(0, ((x + 0.5) * w) / width - 0.5)),
        x0 = Math.floor(sx),
        tx = sx - x0,
        o = (y0 * w + x0) * 3;
      const detail = gain * (1 + 0.22 * (noise3(x * 0.31, y * 0.31, 5) - 0.5) + 0.16 * (noise3(x * 0.77, y * 0.77, 9) - 0.5));
      for (let c = 0; c < 3; c++) {
        const a = small[o + c]! * (1 - tx) + small[o + 3 + c]! * tx,
          b = small[o + w * 3 + c]! * (1 - tx) + small[o + w * 3 + 3 + c]! * tx;
        out[(y * width + x) * 3 + c] = (a * (1 - ty) + b * ty) * detail;
      }
    }
  }
  return { camera: out, meteredEv };
}

export const cellColours = (pattern: Exposure['pattern']): [number, number, number, number] =>
  [...pattern].map((c) => 'RGB'.indexOf(c)) as [number, number, number, number];

/** Photons to counts: photon noise, read noise by ISO, clipping at full well, quantisation. Full well is 60 000 e⁻ at ISO 100. */
export function expose(camera: Float32Array, width: number, height: number, e: Exposure): Shot {
  const random = seeded(e.seed * 2654435761),
    cells = cellColours(e.pattern),
    white = (1 << e.bits) - 1;
  const well = (60000 * 100) / e.iso,
    read = 2.2 + 300 / e.iso,
    gain = 2 ** e.ev;
  const mosaic = new Uint16Array(width * height);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const i = y * width + x,
        electrons = Math.max(0, camera[i * 3 + cells[(y & 1) * 2 + (x & 1)]!]! * gain * well);
      const noisy = Math.min(well, electrons + normal(random) * Math.sqrt(electrons + read * read));
      mosaic[i] = Math.min(white, Math.max(0, Math.round(e.black + (noisy / well) * (white - e.black))));
    }
  }
  return { width, height, mosaic, asShotNeutral: neutralOf(lightOf(e.believedKelvin)), camera };
}
