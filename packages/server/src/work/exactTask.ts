import { scaleDown } from './encodeFile.ts';
import { region, type FrameTask } from './region.ts';

/** Bytes of a pixel of a picture under way: red, green and blue of 16 bits. */
export const exactBytes = 6;

export interface BandTask extends FrameTask {
  width: number;
  first: number;
  end: number;
  /** the picture at full size, `width` across, which the workers fill together */
  into: SharedArrayBuffer;
}
/** Renders the rows from `first` to before `end` of a frame at full size to their place in a picture, in sRGB. */
export async function renderBand({ width, first, end, into, ...of }: BandTask): Promise<void> {
  const { pixels } = await region({ ...of, level: 0, space: 'srgb', area: { x: 0, y: first, width, height: end - first } }, 'rgb16');
  new Uint8Array(into).set(pixels, first * width * exactBytes);
}

/** A filled picture scaled down in linear light to RGBA of a given size: what a delivered file looks like, small. */
export async function scaleBands(t: {
  from: SharedArrayBuffer;
  width: number;
  height: number;
  to: { width: number; height: number };
}): Promise<Uint8Array<ArrayBuffer>> {
  const small = await scaleDown(new Uint16Array(t.from), t.width, t.height, t.to),
    out = new Uint8Array(t.to.width * t.to.height * 4);
  for (let i = 0; i < t.to.width * t.to.height; i++) {
    for (let c = 0; c < 3; c++) out[i * 4 + c] = Math.round(small[i * 3 + c]! / 257);
    out[i * 4 + 3] = 255;
  }
  return out;
}
