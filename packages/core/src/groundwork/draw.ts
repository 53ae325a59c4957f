import type { Plate } from '../plate/plate.ts';
import { levelSize } from '../plate/plate.ts';
import type { Kernels } from '../render/kernels.ts';
import type { Plan } from '../render/plan.ts';
import { isWhole, sourceArea, viewAtLevel, viewOf, warpPlate, type View } from './geometry.ts';
import type { Groundwork } from './groundwork.ts';
import { zoneGuide, type Guide } from './guide.ts';

export interface Area { x: number; y: number; width: number; height: number }
/** What a rectangle of a groundworked frame at a level is drawn from: the part of the plate level, and how. */
export interface Drawing { level: number; area: Area; whole: { width: number; height: number }; source: Area; view: View | null }

/** Plans the drawing of a rectangle of the picture (after geometry) at a level; null is the whole picture. */
export function drawingOf(ground: Groundwork | null, frame: { width: number; height: number }, level: number, area: Area | null): Drawing {
  const size = levelSize(frame.width, frame.height, level), full = ground && viewOf(ground.geometry, frame.width, frame.height);
  if (!full || isWhole(full, frame.width, frame.height)) { const a = area ?? { x: 0, y: 0, ...size }; return { level, area: a, whole: size, source: a, view: null }; }
  const view = viewAtLevel(full, level), a = area ?? { x: 0, y: 0, width: view.width, height: view.height };
  return { level, area: a, whole: { width: view.width, height: view.height }, source: sourceArea(view, a, size), view };
}

/** The plate of a drawing's rectangle, from the part of the level it asked for. */
export function drawPlate(kernels: Kernels, drawing: Drawing, piece: Plate): Plate {
  return drawing.view ? warpPlate(kernels, drawing.view, drawing.area, piece, drawing.source) : piece;
}

/** The guide a plan needs, from the whole small plate it is made of; null when the plan has no zones. */
export function guideFor(kernels: Kernels, plan: Plan, drawing: Drawing, small: Plate): Guide | null {
  return plan.passes.some((p) => p.kernel === 'zones') ? zoneGuide(drawPlate(kernels, drawing, small), plan.scene) : null;
}

/** The size of the picture that comes out. */
export function outputSize(ground: Groundwork | null, frame: { width: number; height: number }): { width: number; height: number } {
  if (!ground) return { width: frame.width, height: frame.height };
  const { width, height } = viewOf(ground.geometry, frame.width, frame.height);
  return { width, height };
}
