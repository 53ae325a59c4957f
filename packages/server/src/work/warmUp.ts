import { identity3 } from '@dyepot/core/src/colour/matrix.ts';
import { emptyLook, newStep } from '@dyepot/core/src/look/look.ts';
import { plan } from '@dyepot/core/src/plan/plan.ts';
import { render } from '@dyepot/core/src/render/render.ts';
import { encodeFile } from './encodeFile.ts';
import { kernels } from './ownKernels.ts';

/** Renders and encodes a small nothing, so that the first picture asked for finds kernels, code and encoder warm. */
export async function warmUp(): Promise<void> {
  const profile = {
      colour: [{ kelvin: 6504, matrix: identity3, forward: null, calibration: identity3 }],
      analogBalance: [1, 1, 1] as const,
      asShotNeutral: [1, 1, 1] as const,
      baselineExposureEv: 0,
    },
    look = {
      ...emptyLook('warm'),
      scene: [newStep('warmth', 'w')],
      print: [newStep('curve', 'c'), newStep('grade', 'g'), newStep('saturation', 's')],
    },
    [width, height] = [360, 240],
    k = await kernels(),
    plate = { width, height, data: new Uint16Array(width * height * 3).fill(9000) };
  for (let i = 0; i < 3; i++) {
    const pixels = render(k, plan(look, { profile, seed: 1 }, 'srgb'), plate, { x: 0, y: 0 }, 'rgb8');
    await encodeFile(pixels, width, height, { format: 'jpeg', depth: 8, space: 'srgb', size: null, quality: 88 }, null);
  }
}
