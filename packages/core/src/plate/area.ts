export interface Size {
  width: number;
  height: number;
}
/** A rectangle of a plate or a picture, in whole pixels. */
export interface Area extends Size {
  x: number;
  y: number;
}
/** A rectangle with so many pixels more on every side, as far as the picture goes. */
export function grown(a: Area, by: number, size: Size): Area {
  const x = Math.max(0, a.x - by),
    y = Math.max(0, a.y - by);
  return { x, y, width: Math.min(size.width, a.x + a.width + by) - x, height: Math.min(size.height, a.y + a.height + by) - y };
}
