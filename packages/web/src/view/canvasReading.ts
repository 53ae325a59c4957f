import { pointReading } from '@dyepot/core';

export type Rgb8 = [number, number, number];

/** The pixel of a canvas at a place in its own pixels; null before anything is drawn. */
export function pixelAt(canvas: HTMLCanvasElement, { x, y }: { x: number; y: number }): Rgb8 | null {
  if (canvas.width === 0) return null;
  const [r, g, b] = canvas.getContext('2d')!.getImageData(Math.floor(x), Math.floor(y), 1, 1).data;
  return [r!, g!, b!];
}

/** The mean colour of a square of a canvas, `side` of its pixels wide, about a place; null before anything is drawn. */
export function meanAbout(canvas: HTMLCanvasElement, { x, y }: { x: number; y: number }, side: number): Rgb8 | null {
  if (canvas.width === 0) return null;
  const { data } = canvas
      .getContext('2d')!
      .getImageData(Math.max(0, Math.floor(x - side / 2)), Math.max(0, Math.floor(y - side / 2)), side, side),
    sum: Rgb8 = [0, 0, 0];
  for (let i = 0; i < data.length; i += 4) for (let k = 0; k < 3; k++) sum[k]! += data[i + k]! / (data.length / 4);
  return sum;
}

/** What a probe says of a colour: codes, linear light, OKLCh and zone. */
export function probeWords([r, g, b]: Rgb8): string {
  const p = pointReading(r, g, b),
    hue = p.chroma < 0.004 ? '–' : `${Math.round(p.hueDegrees)}°`;
  return `R ${r} G ${g} B ${b} · linear ${p.linear.map((v) => v.toFixed(3)).join(' ')} · L ${p.lightness.toFixed(2)} C ${p.chroma.toFixed(3)} h ${hue} · zone ${p.zone.toFixed(1)}`;
}
