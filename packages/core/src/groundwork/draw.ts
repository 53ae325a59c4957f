import { levelSize, plateLevels, type Plate } from '../plate/plate.ts';
import type { Kernels } from '../render/kernels.ts';
import type { Plan } from '../render/plan.ts';
import { detailActs, detailHalo, detailPlate, plainDetail, type Detail } from './detail.ts';
import { isWhole, sourceArea, viewAtLevel, viewOf, warpPlate, type View } from './geometry.ts';
import type { Groundwork } from './groundwork.ts';
import { guideLevel, zoneGuide, type Guide } from './guide.ts';
import type { NoiseModel } from './noise.ts';

export interface Area { x: number; y: number; width: number; height: number }
interface FrameSize { width: number; height: number; noise: NoiseModel }
/**
 * How a rectangle of a groundworked frame is drawn at a level: `area` of the picture (which is `whole` large) needs
 * `needed` of the plate level; `source` is the part to fetch, with what detail reads around it.
 */
export interface Drawing { level: number; area: Area; whole: { width: number; height: number }; needed: Area; source: Area; view: View | null; detail: { settings: Detail; noise: NoiseModel } | null }

/** Plans the drawing of a rectangle of the picture (after geometry) at a level; null is the whole picture. */
export function drawingOf(ground: Groundwork | null, frame: FrameSize, level: number, area: Area | null): Drawing {
  const size = levelSize(frame.width, frame.height, level), full = ground && viewOf(ground.geometry, frame.width, frame.height), view = full && !isWhole(full, frame.width, frame.height) ? viewAtLevel(full, level) : null;
  const whole = view ? { width: view.width, height: view.height } : size, a = area ?? { x: 0, y: 0, ...whole }, needed = view ? sourceArea(view, a, size) : a;
  const halo = ground && detailActs(ground.detail) ? detailHalo(ground.detail, level) : 0;
  if (halo === 0) return { level, area: a, whole, needed, source: needed, view, detail: null };
  const x = Math.max(0, needed.x - halo), y = Math.max(0, needed.y - halo);
  return { level, area: a, whole, needed, view, source: { x, y, width: Math.min(size.width, needed.x + needed.width + halo) - x, height: Math.min(size.height, needed.y + needed.height + halo) - y }, detail: { settings: ground!.detail, noise: frame.noise } };
}

/** The plate of a drawing's rectangle, from the part of the level it asked for. */
export function drawPlate(kernels: Kernels, drawing: Drawing, piece: Plate): Plate {
  const { detail, needed, source, view, area } = drawing;
  const clean = detail ? detailPlate(kernels, detail.settings, detail.noise, drawing.level, piece, source, needed) : piece;
  return view ? warpPlate(kernels, view, area, clean, detail ? needed : source) : clean;
}

/** The drawing a frame's guide is made of: the whole picture, small, before detail. */
export function guideDrawing(ground: Groundwork | null, frame: FrameSize): Drawing {
  return drawingOf(ground && { ...ground, detail: plainDetail }, frame, guideLevel(frame.width, frame.height, plateLevels), null);
}
export const needsGuide = (plan: Plan): boolean => plan.passes.some((p) => p.kernel === 'zones');
/** The guide a plan needs, from the small plate's part that `guideDrawing` asks for; null when the plan has no zones. */
export function guideFor(kernels: Kernels, plan: Plan, drawing: Drawing, small: Plate): Guide | null {
  return needsGuide(plan) ? zoneGuide(drawPlate(kernels, drawing, small), plan.scene) : null;
}

/** The size of the picture that comes out. */
export function outputSize(ground: Groundwork | null, frame: { width: number; height: number }): { width: number; height: number } {
  if (!ground) return { width: frame.width, height: frame.height };
  const { width, height } = viewOf(ground.geometry, frame.width, frame.height);
  return { width, height };
}
