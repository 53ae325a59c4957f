import { identity3 } from '@dyepot/core/src/colour/matrix.ts';
import { usualNoise } from '@dyepot/core/src/groundwork/noise.ts';
import { plainGroundwork } from '@dyepot/core/src/groundwork/groundwork.ts';
import { emptyLook, newStep, type Look } from '@dyepot/core/src/look/look.ts';
import { drawingOf, drawPlate, guideDrawing, originOf, wholeFor, type DrawnFrame } from '@dyepot/core/src/plan/draw.ts';
import { plan } from '@dyepot/core/src/plan/plan.ts';
import { render } from '@dyepot/core/src/render/render.ts';
import { stocks } from '@dyepot/core/src/stock/film/stocks.ts';
import { encodeFile } from './encodeFile.ts';
import { kernels } from './ownKernels.ts';

/** A frame with light of all strengths, of which some has clipped. */
const frame: DrawnFrame = { width: 204, height: 136, noise: usualNoise(100) };

/** Renders and encodes a small nothing on a film that glows, so that the first picture asked for finds kernels, code and encoder warm, and the films of the looks that are expected. */
export async function warmUp(expected: readonly Look[]): Promise<void> {
  const profile = {
      colour: [{ kelvin: 6504, matrix: identity3, forward: null, calibration: identity3 }],
      analogBalance: [1, 1, 1] as const,
      asShotNeutral: [1, 1, 1] as const,
      baselineExposureEv: 0,
    },
    film = newStep('film', 'f'),
    glow = newStep('glow', 'l'),
    look = {
      ...emptyLook('warm'),
      scene: [newStep('warmth', 'w')],
      stock: { ...film, params: { ...film.params, sheet: stocks[0]! } },
      print: [newStep('curve', 'c'), newStep('grade', 'g'), { ...glow, params: { ...glow.params, share: 10 } }],
    },
    { width, height } = frame,
    k = await kernels(),
    plate = { width, height, data: Uint16Array.from({ length: width * height * 3 }, (_, i) => (i * 61) % 65536) },
    basis = { profile, seed: 1, groundwork: plainGroundwork, picture: frame },
    p = plan(look, basis, 'srgb'),
    drawing = drawingOf(plainGroundwork, frame, 0, null);
  await othersFirst();
  const known = wholeFor(k, p, guideDrawing(plainGroundwork, frame), { ...plate });
  await othersFirst();
  const pixels = render(k, p, drawPlate(k, drawing, plate), originOf(drawing, known), 'rgb8');
  await encodeFile(pixels, width, height, { format: 'jpeg', depth: 8, space: 'srgb', size: null, quality: 88 }, null);
  // their films are opened, and kept
  for (const l of expected) {
    await othersFirst();
    plan(l, basis, 'srgb');
  }
}
/** What is asked for meanwhile is done before. */
const othersFirst = (): Promise<void> => new Promise((resolve) => setImmediate(resolve));
