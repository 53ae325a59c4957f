import type { Mask, MaskPart, NamedMask } from '@dyepot/core';
import type { FilmPlace } from './filmPlace.ts';

type At = { x: number; y: number };
/** Where on the picture a part can be pointed at, in shares of it; null for one that lies nowhere in particular. */
function placeOfPart(part: MaskPart, { from }: Pick<FilmPlace, 'from'>): At | null {
  const middle = (xs: readonly number[]): number => (Math.min(...xs) + Math.max(...xs)) / 2;
  switch (part.kind) {
    case 'gradient':
      return { x: part.from[0] + part.middle * (part.to[0] - part.from[0]), y: part.from[1] + part.middle * (part.to[1] - part.from[1]) };
    case 'radial':
      return { x: part.centre[0], y: part.centre[1] };
    case 'brush': {
      const points = part.strokes.find((s) => !s.erase)?.points ?? [];
      return points.length < 2 ? null : from(points[0]! / 1e4, points[1]! / 1e4);
    }
    case 'outline':
      return part.points.length === 0 ? null : from(middle(part.points.map((p) => p[0])), middle(part.points.map((p) => p[1])));
    case 'figure':
      return from(part.box[0] + part.box[2] / 2, part.box[1] + part.box[3] / 2);
    default:
      return null;
  }
}
/** Where the pin of a place stands: on its first part that lies somewhere, or on that of the named place it uses, within the picture; null where none does. */
export function pinAt(mask: Mask, film: Pick<FilmPlace, 'from'>, named: readonly NamedMask[] = []): At | null {
  const inside = (v: number): number => Math.min(0.98, Math.max(0.02, v));
  for (const part of mask.parts) {
    const used = part.kind === 'named' ? named.find((n) => n.id === part.mask) : undefined,
      // a named place is made of no other
      at = used ? pinAt(used.mask, film) : placeOfPart(part, film);
    if (at) return { x: inside(at.x), y: inside(at.y) };
  }
  return null;
}
