import { coverOf, loadKernels, solveMembrane, type Kernels, type Shape } from '@dyepot/core';
import kernelsUrl from '@dyepot/core/src/render/kernels.wasm?url';

/** A place smoothed over, in pixels of the canvas it was read from. */
export interface Smoothed {
  x: number;
  y: number;
  picture: ImageData;
}
let loading: Promise<Kernels> | null = null;
/** The page’s own kernels, for what is drawn before the workers and the server answer. */
export const ownKernels = (): Promise<Kernels> =>
  (loading ??= fetch(kernelsUrl)
    .then((r) => r.arrayBuffer())
    .then((bytes) => loadKernels(bytes)));
/** More pixels than this are not smoothed over: it would take longer than the repair itself. */
const mostPixels = 60_000;
/**
 * What a shape covers of the picture on the screen, smoothed over from its border: a stand-in for the repair, which is computed
 * at full size and follows. The shape is in shares of the canvas. Null where it lies outside or is too large.
 */
export function smoothedOver(kernels: Kernels, canvas: HTMLCanvasElement, shape: Shape): Smoothed | null {
  const cover = coverOf(shape, canvas);
  if (!cover || cover.box.width * cover.box.height > mostPixels) return null;
  const {
      box: { x, y, width, height },
      alpha,
    } = cover,
    picture = canvas.getContext('2d', { alpha: false })!.getImageData(x, y, width, height),
    inside = Uint8Array.from(alpha, (v) => (v > 0 ? 1 : 0)),
    planes = [0, 1, 2].map((c) => {
      const plane = new Float32Array(width * height);
      for (let i = 0; i < plane.length; i++) plane[i] = 256 * picture.data[4 * i + c]!;
      return plane;
    });
  solveMembrane(kernels, { width, height, inside }, planes);
  for (let i = 0; i < inside.length; i++)
    for (let c = 0; c < 3; c++) {
      const was = picture.data[4 * i + c]!;
      picture.data[4 * i + c] = was + alpha[i]! * (planes[c]![i]! / 256 - was);
    }
  return { x, y, picture };
}
