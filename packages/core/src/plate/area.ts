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
/** What two rectangles have in common; null where they have nothing. */
export function overlapOf(a: Area, b: Area): Area | null {
  const x = Math.max(a.x, b.x),
    y = Math.max(a.y, b.y),
    width = Math.min(a.x + a.width, b.x + b.width) - x,
    height = Math.min(a.y + a.height, b.y + b.height) - y;
  return width > 0 && height > 0 ? { x, y, width, height } : null;
}
