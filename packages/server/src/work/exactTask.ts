import { asCodes, asLight, scaledLight } from './encodeFile.ts';
import { region, type FrameTask } from './region.ts';

export interface BandTask extends FrameTask {
  width: number;
  first: number;
  end: number;
  /** the picture at full size, `width` across, which the workers fill together: linear light of 16 bits */
  into: SharedArrayBuffer;
}
/** The room such a picture takes. */
export const exactRoom = (width: number, height: number): number => width * height * 6;

/** Renders the rows from `first` to before `end` of a frame at full size to their place in a picture: the light of their sRGB codes. */
export async function renderBand({ width, first, end, into, ...of }: BandTask): Promise<void> {
  const { pixels } = await region({ ...of, level: 0, space: 'srgb', area: { x: 0, y: first, width, height: end - first } }, 'rgb16');
  asLight(new Uint16Array(pixels.buffer), 'srgb', new Uint16Array(into, first * width * 6, (end - first) * width * 3));
}

/**
 * A filled picture scaled down to RGBA of a given size: what a delivered file looks like, small. All of it at once: along columns, then along
 * rows, each held to what 16 bits hold, the file's own order; in another one dark places beside lights come out by some codes apart.
 */
export async function scaleBands(t: {
  from: SharedArrayBuffer;
  width: number;
  height: number;
  to: { width: number; height: number };
}): Promise<Uint8Array<ArrayBuffer>> {
  const small = asCodes(await scaledLight(new Uint16Array(t.from), t.width, t.height, t.to), 'srgb'),
    out = new Uint8Array(t.to.width * t.to.height * 4);
  for (let i = 0; i < t.to.width * t.to.height; i++) {
    for (let c = 0; c < 3; c++) out[i * 4 + c] = Math.round(small[i * 3 + c]! / 257);
    out[i * 4 + 3] = 255;
  }
  return out;
}
