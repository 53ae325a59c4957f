import { asCodes, asLight, scaledLight } from './encodeFile.ts';
import { region, type FrameTask } from './region.ts';

export interface BandTask extends FrameTask {
  /** pixels across at full size */
  width: number;
  first: number;
  end: number;
  /** pixels across in the picture that the workers fill together: all rows, linear light of 16 bits */
  across: number;
  into: SharedArrayBuffer;
}
/** The room such a picture takes. */
export const exactRoom = (across: number, height: number): number => across * height * 6;

/** Renders the rows from `first` to before `end` of a frame at full size, and scales the light of its sRGB codes down along them. */
export async function renderBand({ width, first, end, across, into, ...of }: BandTask): Promise<void> {
  const rows = end - first,
    { pixels } = await region({ ...of, level: 0, space: 'srgb', area: { x: 0, y: first, width, height: rows } }, 'rgb16'),
    light = asLight(new Uint16Array(pixels.buffer), 'srgb'),
    narrow = across === width ? light : await scaledLight(light, width, rows, { width: across, height: rows });
  new Uint16Array(into).set(narrow, first * across * 3);
}

/** A filled picture scaled down along its columns too, to RGBA: what a delivered file looks like, small. */
export async function scaleBands(t: {
  from: SharedArrayBuffer;
  across: number;
  height: number;
  to: number;
}): Promise<Uint8Array<ArrayBuffer>> {
  const light = await scaledLight(new Uint16Array(t.from), t.across, t.height, { width: t.across, height: t.to }),
    small = asCodes(light, 'srgb'),
    out = new Uint8Array(t.across * t.to * 4);
  for (let i = 0; i < t.across * t.to; i++) {
    for (let c = 0; c < 3; c++) out[i * 4 + c] = Math.round(small[i * 3 + c]! / 257);
    out[i * 4 + 3] = 255;
  }
  return out;
}
