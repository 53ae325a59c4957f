import type { Vector3 } from '@dyepot/core/src/colour/matrix.ts';
import { rec2020ToOklab } from '@dyepot/core/src/colour/oklab.ts';
import type { Groundwork } from '@dyepot/core/src/groundwork/groundwork.ts';
import type { Kernels } from '@dyepot/core/src/kernels/kernels.ts';
import type { Look } from '@dyepot/core/src/look/look.ts';
import type { OwnSteps } from '@dyepot/core/src/look/worn.ts';
import {
  drawingOf,
  drawPlate,
  guideDrawing,
  needsGuide,
  originOf,
  shownOf,
  wholeFor,
  type Area,
  type Drawing,
  type WholePicture,
} from '@dyepot/core/src/plan/draw.ts';
import { plan, placePlan } from '@dyepot/core/src/plan/plan.ts';
import type { RawFacts } from '@dyepot/core/src/plate/mosaic.ts';
import type { Plate } from '@dyepot/core/src/plate/plate.ts';
import { reachOf, type Plan } from '@dyepot/core/src/render/pass.ts';
import { developPlanes, render, type Form } from '@dyepot/core/src/render/render.ts';
import type { FileSettings } from './encodeFile.ts';
import { drawn, seedOf } from './frameAsDrawn.ts';
import { readMended, type Patch } from './mending.ts';
import { kernels } from './ownKernels.ts';

/** A frame on disk, and what is done to it. */
export interface FrameTask {
  folder: string;
  full: { width: number; height: number };
  facts: RawFacts;
  hash: string;
  look: Look | null;
  groundwork: Groundwork | null;
  /** the frame's own steps */
  own: OwnSteps | null;
  /** its repairs, done */
  patches: readonly Patch[];
}
export interface RegionTask extends FrameTask {
  level: number;
  area: Area | null;
  space: FileSettings['space'];
}

/** Renders a region of a level to RGBA; null is the whole picture. */
export const renderRegion = async (t: RegionTask): Promise<{ rgba: Uint8Array<ArrayBuffer>; width: number; height: number }> => {
  const { pixels, ...size } = await region(t, 'rgba8');
  return { rgba: pixels, ...size };
};
export async function region(t: RegionTask, form: Form): Promise<{ pixels: Uint8Array<ArrayBuffer>; width: number; height: number }> {
  const { k, p, plate, drawing, known } = await regionDrawn(t, plan);
  return {
    pixels: shownOf(drawing, render(k, p, plate, originOf(drawing, known), form)),
    width: drawing.shown.width,
    height: drawing.shown.height,
  };
}
/** Linear light, in the mean over a region, as it comes to the place of a step; null where that has none. OKLab. */
export async function readLight(t: RegionTask & { of: string }): Promise<Vector3 | null> {
  const { k, p, plate, drawing, known } = await regionDrawn(t, (...of) => placePlan(...of, t.of));
  if (!p) return null;
  const n = plate.width * plate.height,
    planes = developPlanes(k, p, plate, p.passes.length - 2, originOf(drawing, known));
  return rec2020ToOklab([0, 1, 2].map((c) => planes.subarray(c * n, (c + 1) * n).reduce((sum, v) => sum + v, 0) / n) as unknown as Vector3);
}
async function regionDrawn<P extends Plan | null>(
  t: RegionTask,
  made: (...of: Parameters<typeof plan>) => P,
): Promise<{ k: Kernels; p: P; plate: Plate; drawing: Drawing; known: WholePicture | null }> {
  const k = await kernels(),
    frame = drawn(t.full, t.facts),
    p = made(t.look, { profile: t.facts.profile, seed: seedOf(t.hash), groundwork: t.groundwork, picture: frame, steps: t.own }, t.space),
    drawing = drawingOf(t.groundwork, frame, t.level, t.area, { reach: p ? reachOf(p.passes) : 0 });
  const piece = await readMended(t.folder, drawing.level, t.full, drawing.source, t.patches),
    plate = drawPlate(k, drawing, piece),
    small = guideDrawing(t.groundwork, frame),
    // a small picture is often drawn from the very piece its guide is
    same = small.level === drawing.level && JSON.stringify(small.source) === JSON.stringify(drawing.source);
  const needs = p !== null && needsGuide(p),
    known = needs ? wholeFor(k, p, small, same ? piece : await readMended(t.folder, small.level, t.full, small.source, t.patches)) : null;
  return { k, p, plate, drawing, known };
}
