import {
  drawingOf,
  guideDrawing,
  levelSize,
  dressed,
  needsGuide,
  reachOf,
  placePlan,
  plan,
  type Area,
  type Drawing,
  type Groundwork,
  type Look,
  type OwnSteps,
  type Plan,
  type ReadoutKind,
} from '@dyepot/core';
import type { Frame } from '../types.ts';
import type { Job } from './renderWorker.ts';

/** A rectangle of a level of the picture, after its geometry. */
export interface Piece extends Area {
  level: number;
}
/** What a frame is shown under. A null look is the neutral response; null groundwork is none. */
export interface Treatment {
  look: Look | null;
  ground: Groundwork | null;
  /** where sharpening acts is shown instead */ mask?: boolean;
  /** the frame's own steps; none where not said */
  steps?: OwnSteps | null | undefined;
  /** where the step of this id acts is shown instead, as grey */
  place?: string | null | undefined;
  /** nothing differs from what was asked for before but what lies here (fractions of the picture): that is painted, by itself */
  only?: Area | null;
}

const seedOf = (hash: string): number => Number.parseInt(hash.slice(0, 7), 16);

/** The bands of a piece, one for each worker, and the plate each is drawn from. */
export function bandsOf(
  frame: Frame,
  ground: Groundwork | null,
  piece: Piece,
  count: number,
  { look = null, mask = false, steps = null }: Pick<Partial<Treatment>, 'look' | 'mask' | 'steps'> = {},
  /** drawn once and not again under other geometry */ once = false,
): { drawing: Drawing; url: string; top: number }[] {
  const rows = Math.ceil(piece.height / count);
  return Array.from({ length: count }, (_, i) => i * rows)
    .filter((top) => top < piece.height)
    .map((top) => {
      const planned = drawingOf(
        ground,
        frame,
        piece.level,
        { x: piece.x, y: piece.y + top, width: piece.width, height: Math.min(rows, piece.height - top) },
        { mask, reach: mask ? 0 : reachOf(dressed(look, steps)) },
      );
      // under a geometry or detail of its own a smaller level is held whole, so that changing it needs no new plate
      const source =
          (planned.view || planned.detail || planned.fringes) && planned.level > 0 && !once
            ? { x: 0, y: 0, ...levelSize(frame.width, frame.height, planned.level) }
            : planned.source,
        { x, y, width, height } = source;
      return {
        drawing: { ...planned, source },
        top,
        url: `/api/frames/${frame.id}/plate/${planned.level}?x=${x}&y=${y}&width=${width}&height=${height}&v=${frame.hash.slice(0, 8)}${frame.repairStamp}`,
      };
    });
}

/** The part of a band that lies within a limit (fractions of the picture), in the band's own pixels; it may be empty. */
function partOf({ shown: area, whole }: Drawing, limit: Area | null): Area | null {
  if (!limit) return null;
  const clamp = (v: number, top: number): number => Math.round(Math.min(top, Math.max(0, v))),
    x = clamp(limit.x * whole.width - area.x, area.width),
    y = clamp(limit.y * whole.height - area.y, area.height);
  return {
    x,
    y,
    width: clamp((limit.x + limit.width) * whole.width - area.x, area.width) - x,
    height: clamp((limit.y + limit.height) * whole.height - area.y, area.height) - y,
  };
}

const areaOf = ({ width, height }: Pick<Area, 'width' | 'height'>): number => width * height;

export interface Wish {
  frame: Frame;
  piece: Piece;
  readout: ReadoutKind | null;
  limit: Area | null;
}
/** What the workers have to do for a wish, and the plates that it needs them to hold. */
export function jobsOf(
  { frame, piece, readout, limit }: Wish,
  { look, ground, mask = false, steps = null, place = null }: Treatment,
  count: number,
  once = false,
): { plan: Plan; jobs: Job[]; urls: string } {
  const basis = { profile: frame.profile, seed: seedOf(frame.hash), groundwork: ground, picture: frame, steps },
    p = (place && placePlan(look, basis, 'srgb', place)) || plan(look, basis, 'srgb'),
    small = guideDrawing(ground, frame);
  const guide = needsGuide(p)
      ? {
          url: `/api/frames/${frame.id}/plate/${small.level}?v=${frame.hash.slice(0, 8)}${frame.repairStamp}`,
          drawing: { ...small, source: { x: 0, y: 0, ...levelSize(frame.width, frame.height, small.level) } },
        }
      : null,
    bands = bandsOf(frame, ground, piece, count, { look, mask, steps }, once),
    parts = bands.map(({ drawing }) => partOf(drawing, limit)),
    of = parts.reduce((sum, part, i) => sum + areaOf(part ?? bands[i]!.drawing.shown), 0);
  return {
    plan: p,
    jobs: bands.map(({ drawing }, i) => ({ plan: p, drawing, guide, readout: readout && { kind: readout, part: parts[i]!, of } })),
    urls: bands.map((b) => b.url).join(' '),
  };
}
