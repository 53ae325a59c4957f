import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import type { GraphModel } from '@tensorflow/tfjs-converter';
import { apply3 } from '@dyepot/core/src/colour/matrix.ts';
import { rec2020To, srgb } from '@dyepot/core/src/colour/spaces.ts';
import { encodeSrgb } from '@dyepot/core/src/colour/transfer.ts';
import { luminanceOf } from '@dyepot/core/src/colour/luminance.ts';
import type { Box } from '@dyepot/core/src/render/found/figure.ts';
import type { Planes } from '@dyepot/core/src/render/render.ts';
import { root } from '../places.ts';

/** The models ask for squares of so many pixels, RGB from 0 to 1, and answer with how likely each of them is a person. */
const side = 256;
/** Each model, the name of its answer, and the squares it is shown: their sides over the longer one of the box. */
const models = [
  { name: 'selfie', answer: 'activation_10:0', squares: [1, 1.25, 1.6] },
  { name: 'pose', answer: 'activation_segmentation', squares: [1, 1.25, 1.6, 2] },
] as const;

type Ask = (model: number, picture: Float32Array) => Float32Array;
let asking: Promise<Ask> | null = null;
/** The models, fetched from disk where a person is looked for, and not before. */
const asked = (): Promise<Ask> =>
  (asking ??= (async (): Promise<Ask> => {
    const tf = await import('@tensorflow/tfjs-core'),
      { loadGraphModel } = await import('@tensorflow/tfjs-converter'),
      { setThreadsCount, setWasmPaths } = await import('@tensorflow/tfjs-backend-wasm');
    setWasmPaths(`${dirname(createRequire(import.meta.url).resolve('@tensorflow/tfjs-backend-wasm'))}/`);
    setThreadsCount(1);
    await tf.setBackend('wasm');
    const loaded = await Promise.all(models.map(({ name }) => loadGraphModel({ load: () => Promise.resolve(artifacts(name)) })));
    return (model, picture) =>
      tf.tidy(() => {
        const shown = tf.tensor4d(picture, [1, side, side, 3]);
        return (
          (loaded[model] as GraphModel).execute(shown, models[model]!.answer) as ReturnType<typeof tf.tensor>
        ).dataSync() as Float32Array;
      });
  })().catch((error: unknown) => {
    // it is tried again with the next box
    asking = null;
    throw new Error(
      `the networks that tell people apart cannot be read (packages/server/models): ${error instanceof Error ? error.message : String(error)}`,
    );
  }));
function artifacts(name: string): { modelTopology: object; signature: object; weightSpecs: []; weightData: ArrayBuffer } {
  const file = (end: string): Buffer => readFileSync(join(root, 'packages/server/models', `${name}.${end}`)),
    { modelTopology, signature, weightsManifest } = JSON.parse(file('json').toString()) as {
      modelTopology: object;
      signature: object;
      weightsManifest: [{ weights: [] }];
    },
    bytes = file('bin');
  return {
    modelTopology,
    signature,
    weightSpecs: weightsManifest[0].weights,
    weightData: bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength) as ArrayBuffer,
  };
}

const toSrgb = rec2020To(srgb);
/** Scene light as an ordinary photograph has it: its middle at middle grey, lights softened; sRGB, RGB by pixel, 0–1. */
function asPhotograph(planes: Planes, n: number): Float32Array {
  const light = Float32Array.from({ length: n }, (_, i) => luminanceOf(planes[i]!, planes[n + i]!, planes[2 * n + i]!)),
    gain = 0.2 / Math.max(1e-6, light.slice().sort()[n >> 1]!),
    out = new Float32Array(3 * n);
  for (let i = 0; i < n; i++) {
    const rgb = apply3(toSrgb, [planes[i]!, planes[n + i]!, planes[2 * n + i]!]);
    for (let c = 0; c < 3; c++) {
      const v = Math.max(0, gain * rgb[c]!),
        soft = v < 0.2 ? v : 0.2 + 0.8 * (1 - Math.exp(-(v - 0.2) / 0.8));
      out[3 * i + c] = encodeSrgb(soft);
    }
  }
  return out;
}
/** A square of a picture, made as large as the models ask; black outside of it. */
function squareOf(photo: Float32Array, width: number, height: number, { x, y, width: across }: Box): Float32Array {
  const out = new Float32Array(3 * side * side),
    step = across / side,
    // so many places to each side of one that is made from them
    taps = Math.max(1, Math.round(step));
  for (let v = 0; v < side; v++)
    for (let u = 0; u < side; u++)
      for (let k = 0; k < taps * taps; k++) {
        const at = x + (u + ((k % taps) + 0.5) / taps) * step - 0.5,
          down = y + (v + (Math.floor(k / taps) + 0.5) / taps) * step - 0.5,
          [x0, y0] = [Math.floor(at), Math.floor(down)];
        for (const [dx, dy] of corners) {
          const [px, py] = [x0 + dx, y0 + dy];
          if (px < 0 || py < 0 || px >= width || py >= height) continue;
          const share = (dx ? at - x0 : 1 - at + x0) * (dy ? down - y0 : 1 - down + y0);
          for (let c = 0; c < 3; c++) out[(v * side + u) * 3 + c]! += (share * photo[(py * width + px) * 3 + c]!) / (taps * taps);
        }
      }
  return out;
}
/** The share of a box that a person in it takes, at least. */
const least = 0.08;
const corners = [
  [0, 0],
  [1, 0],
  [0, 1],
  [1, 1],
] as const;

/**
 * How likely each place of a small picture is a person (0–1), where a box lies round one: the mean of what two networks say that were
 * trained on photographs (packages/server/models), each shown squares about the box of several sizes. Nought outside the box. Null where they see
 * no person there: the box lies round something else.
 * @param planes scene light, linear Rec.2020
 */
export async function personIn(planes: Planes, width: number, height: number, box: Box): Promise<Float32Array | null> {
  const ask = await asked(),
    photo = asPhotograph(planes, width * height),
    out = new Float32Array(width * height),
    shown = models.flatMap(({ squares }, model) => squares.map((grown) => ({ model, grown })));
  for (const { model, grown } of shown) {
    const across = grown * Math.max(box.width, box.height),
      square = { x: box.x + (box.width - across) / 2, y: box.y + (box.height - across) / 2, width: across, height: across },
      said = ask(model, squareOf(photo, width, height, square));
    for (let y = Math.max(0, box.y); y < Math.min(height, box.y + box.height); y++)
      for (let x = Math.max(0, box.x); x < Math.min(width, box.x + box.width); x++) {
        const u = Math.floor(((x + 0.5 - square.x) / across) * side),
          v = Math.floor(((y + 0.5 - square.y) / across) * side);
        out[y * width + x]! += Math.min(1, Math.max(0, said[v * side + u]!)) / shown.length;
      }
  }
  const people = out.reduce((count, v) => count + (v > 0.5 ? 1 : 0), 0);
  return people < least * box.width * box.height ? null : out;
}
