import { fileGain, lensMapOf, opcodeAxis, plainLens, throughLens, type FileLens } from '@dyepot/core/src/groundwork/lens.ts';

/**
 * The simulated camera's faulty zoom at its wide end (the sensor sees no further than the light goes): lines bow outward, red and blue are drawn at other sizes than green,
 * the corners get a third of the middle's light. Said as what undoes it, the way a DNG says it.
 */
export const wideZoom: FileLens = {
  warp: {
    planes: [
      [1.0632, -0.072, 0.011, 0, 0.0004, -0.0003],
      [1.062, -0.072, 0.011, 0, 0.0004, -0.0003],
      [1.0611, -0.072, 0.011, 0, 0.0004, -0.0003],
    ],
    centre: [0.503, 0.496],
  },
  vignetting: { terms: [0.9, 0.5, 0.35, 0.2, 0.05], centre: [0.5, 0.5], beforeWarp: true },
  others: [],
};

/** What the sensor sees of camera light (interleaved RGB) through glass that `undo` would put right. */
export function throughGlass(camera: Float32Array, width: number, height: number, undo: FileLens): Float32Array {
  const out = new Float32Array(camera.length),
    map = lensMapOf({ ...plainLens }, undo, { width, height }),
    axis = undo.vignetting && opcodeAxis(undo.vignetting.centre, { width, height });
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const gain = axis ? fileGain(undo.vignetting!.terms, ((x + 0.5 - axis.x) ** 2 + (y + 0.5 - axis.y) ** 2) / axis.unit ** 2) : 1;
      for (let c = 0; c < 3; c++) {
        // the straight picture's place whose light lands here, by repeated correction
        let u = x + 0.5,
          v = y + 0.5;
        for (let i = 0; i < 6; i++) {
          const [a, b] = throughLens(map, c, u, v);
          u += x + 0.5 - a;
          v += y + 0.5 - b;
        }
        const sx = Math.min(width - 1.001, Math.max(0, u - 0.5)),
          sy = Math.min(height - 1.001, Math.max(0, v - 0.5)),
          x0 = Math.floor(sx),
          y0 = Math.floor(sy),
          tx = sx - x0,
          ty = sy - y0,
          o = (y0 * width + x0) * 3 + c;
        out[(y * width + x) * 3 + c] =
          ((camera[o]! * (1 - tx) + camera[o + 3]! * tx) * (1 - ty) +
            (camera[o + width * 3]! * (1 - tx) + camera[o + width * 3 + 3]! * tx) * ty) /
          gain;
      }
    }
  return out;
}
