import { boxOf, type Groundwork } from '@dyepot/core';
import type { Frame } from '../types.ts';
import { bandsOf, type Piece } from './frameJobs.ts';
import { platePlaceOf } from './platePlace.ts';

/** How far beyond a repair its change is drawn, in pixels of the piece: sharpening and the like read neighbours. */
const rim = 12;
/** From this share of the piece on all of it is drawn at once. */
const mostShare = 0.3;
/** The part of a piece in which a frame’s repairs changed; null where that cannot be told, is nothing, or is nearly all of it. */
export function mendedPart(before: Frame, now: Frame, ground: Groundwork | null, piece: Piece): Piece | null {
  if (before.id !== now.id || before.repairStamp === now.repairStamp) return null;
  if (before.repairs.length !== before.repairCount || now.repairs.length !== now.repairCount) return null;
  const [were, are] = [before, now].map((f) => new Map(f.repairs.map((r) => [JSON.stringify(r), r]))) as [
      Map<string, Frame['repairs'][number]>,
      Map<string, Frame['repairs'][number]>,
    ],
    changed = [...[...were].filter(([k]) => !are.has(k)), ...[...are].filter(([k]) => !were.has(k))].map(([, r]) => boxOf(r.shape, now)),
    { whole } = bandsOf(now, ground, piece, 1)[0]!.drawing,
    place = platePlaceOf(now, ground),
    corners = changed.flatMap((box) =>
      box
        ? [0, 0.5, 1].flatMap((u) =>
            [0, 0.5, 1].map((v) => place.from({ x: (box.x + u * box.width) / now.width, y: (box.y + v * box.height) / now.height })),
          )
        : [],
    );
  if (corners.length === 0) return null;
  const xs = corners.map((c) => c.x * whole.width),
    ys = corners.map((c) => c.y * whole.height),
    x = Math.max(piece.x, Math.floor(Math.min(...xs)) - rim),
    y = Math.max(piece.y, Math.floor(Math.min(...ys)) - rim),
    part = {
      level: piece.level,
      x,
      y,
      width: Math.min(piece.x + piece.width, Math.ceil(Math.max(...xs)) + rim) - x,
      height: Math.min(piece.y + piece.height, Math.ceil(Math.max(...ys)) + rim) - y,
    };
  return part.width > 0 && part.height > 0 && part.width * part.height < mostShare * piece.width * piece.height ? part : null;
}
