import { srgb, rgbToXyz, xyzToRec2020 } from '../colour/spaces.ts';
import { apply3, chain3, type Vector3 } from '../colour/matrix.ts';
import { decodeSrgb } from '../colour/transfer.ts';
import type { Kernels } from '../kernels/kernels.ts';
import { encodeParameters } from '../render/output.ts';
import { lookPasses, passesOf } from './plan.ts';
import { layOut } from '../render/arena.ts';
import { drawMask, maskPlanes, numbersOf } from '../render/maskTile.ts';
import { deepest, everywhereAlike, isJoinPass, type Pass } from '../render/pass.ts';
import { stepsOf, type Look } from '../look/look.ts';

/** The colours sent through a look for its face, as sRGB: greys, skins, sky, sea, foliage, brick, straw. */
const swatches: readonly (readonly [number, number, number])[] = [
  [24, 24, 26],
  [72, 72, 72],
  [118, 118, 118],
  [168, 168, 168],
  [222, 222, 222],
  [92, 60, 46],
  [158, 110, 86],
  [214, 168, 144],
  [112, 156, 204],
  [60, 100, 130],
  [96, 118, 56],
  [58, 84, 62],
  [150, 74, 56],
  [206, 172, 96],
];
const toScene = chain3(xyzToRec2020, rgbToXyz(srgb));

/** The strip's colours as light of the scene, linear Rec.2020. */
export const stripColours: readonly Vector3[] = swatches.map((s) =>
  apply3(toScene, s.map((v) => decodeSrgb(v / 255)) as unknown as Vector3),
);

/** Runs linear Rec.2020 colours through the passes that act on every place alike. @returns the colours after them */
export function sendThrough(kernels: Kernels, all: readonly Pass[], colours: readonly Vector3[]): Vector3[] {
  const passes = everywhereAlike(all),
    masks = passes.flatMap((p) => (isJoinPass(p) && p.mask ? [p.mask] : [])),
    n = (colours.length + 3) & ~3,
    plane = n * 4,
    depth = deepest(passes),
    at = layOut(kernels, {
      planes: plane * 3 * (1 + depth),
      mask: Math.max(0, ...masks.map(maskPlanes)) * (plane + 64),
      maskNumbers: Math.max(0, ...masks.map(numbersOf)),
      numbers: Math.max(64, ...passes.map((p) => p.parameters.length)) * 4,
    }),
    room = { planes: at.mask, plane: plane + 64, fields: 0, numbers: at.maskNumbers },
    tile = { width: n, count: 1, y: 0, plate: { width: n, height: 1 } };
  const f32 = kernels.f32(),
    planes = (k: number): [number, number, number] => [0, 1, 2].map((c) => at.planes + (k * 3 + c) * plane) as [number, number, number];
  for (let i = 0; i < colours.length; i++) for (let k = 0; k < 3; k++) f32[at.planes / 4 + k * n + i] = colours[i]![k]!;
  let open = 0;
  for (const pass of passes) {
    f32.set(pass.parameters, at.numbers / 4);
    if (pass.kernel === 'hold') kernels.u8().copyWithin(planes(++open)[0], at.planes, at.planes + 3 * plane);
    else if (isJoinPass(pass)) {
      const held = planes(open--);
      kernels.exports.join(...planes(0), ...held, n, at.numbers);
      if (pass.mask)
        kernels.exports.maskMix(
          ...planes(0),
          ...held,
          drawMask({ kernels, room, light: held, tile, origin: { x: 0, y: 0 } }, pass.mask, []),
          n,
        );
    } else kernels.exports[pass.kernel](...planes(0), n, at.numbers);
  }
  return colours.map((_, i) => [f32[at.planes / 4 + i]!, f32[at.planes / 4 + n + i]!, f32[at.planes / 4 + 2 * n + i]!]);
}

/** Display-linear Rec.2020 to 8-bit sRGB as #rrggbb, with the engine's own gamut mapping (dither left out). */
export function toHex(kernels: Kernels, colours: readonly Vector3[]): string[] {
  const numbers = encodeParameters('srgb'),
    at = kernels.reserve(numbers.length * 4 + 256),
    out = at + 64;
  kernels.f32().set(numbers, (at + 128) / 4);
  return colours.map((c) => {
    kernels.f32().set([c[0], 0, 0, 0, c[1], 0, 0, 0, c[2], 0, 0, 0], at / 4);
    kernels.exports.encode(at, at + 16, at + 32, 1, at + 128, out, 0, 0, 0, 6);
    const u = kernels.u16();
    return `#${[0, 1, 2]
      .map((k) =>
        Math.round(u[out / 2 + k]! / 257)
          .toString(16)
          .padStart(2, '0'),
      )
      .join('')}`;
  });
}

/** A look's dye strip: fourteen chips as #rrggbb. */
export function dyeStrip(kernels: Kernels, look: Look): string[] {
  const scene = stripColours;
  return toHex(kernels, sendThrough(kernels, lookPasses(look), scene));
}

/** What each step makes of one linear Rec.2020 colour, in order; with the final colour last. */
export function probeLook(kernels: Kernels, look: Look, colour: Vector3): { step: string; kind: string; rgb: Vector3 }[] {
  let rgb = colour;
  return stepsOf(look).map((step) => {
    rgb = sendThrough(kernels, passesOf(step, look.strength), [rgb])[0]!;
    return { step: step.name || step.id, kind: step.kind, rgb };
  });
}
