import type { Vector3 } from '../colour/matrix.ts';
import { grown, type Area } from '../plate/area.ts';
import { cutPlate, halvePlate, levelSize, plateLevels, plateOffset, plateScale, type Plate } from '../plate/plate.ts';
import type { Kernels } from '../kernels/kernels.ts';
import { mapsFor, type Maps } from '../render/maps.ts';
import { readsPicture, type Plan } from '../render/pass.ts';
import type { FilmPlane } from '../render/filmPlane.ts';
import type { Origin } from '../render/render.ts';
import { detailActs, plainDetail } from '../groundwork/detail/detail.ts';
import type { Optics } from '../groundwork/detail/optics.ts';
import { detailHalo, detailPlate, type DetailTask } from '../groundwork/detail/plate.ts';
import { fringeHalo, withoutFringes } from '../groundwork/fringe.ts';
import { isWhole, turnedSize, viewAtLevel, viewOf, type View } from '../groundwork/geometry.ts';
import { plainGroundwork, type Groundwork } from '../groundwork/groundwork.ts';
import { recoveryAt } from '../groundwork/light.ts';
import { guideLevel, zoneGuide } from '../groundwork/guide.ts';
import type { Guide } from '../render/guided.ts';
import { defringes, gainAt, lensGainOf, lensMapOf, plainLens, type FileLens, type Lens, type LensGain } from '../groundwork/lens.ts';
import type { NoiseModel } from '../groundwork/noise.ts';
import { surroundOf } from '../groundwork/surround.ts';
import type { Surround } from '../render/surround.ts';
import { sourceArea, warpPlate } from '../groundwork/resample.ts';

export type { Area } from '../plate/area.ts';
/** A frame as its drawings need it: size of the upright plate, noise, camera RGB of its as-shot neutral, and what its file says of the lens. */
export interface DrawnFrame {
  width: number;
  height: number;
  noise: NoiseModel;
  neutral?: Vector3;
  fileLens?: FileLens | null;
  optics?: Optics;
}
/**
 * How a rectangle of a groundworked frame is drawn at a level: `area` of the picture (which is `whole` large) needs
 * `needed` of the plate at `level`; `source` is the part to fetch, with what detail reads around it; `drawn` is `area` with
 * what the taking out of fringes reads around it. A resampled picture is drawn from the next larger level and then `halved`,
 * since means of a level do not tell what lies between them; all but `area` and `whole` are then of that level.
 */
export interface Drawing {
  level: number;
  halved: boolean;
  /** what is asked for, and what is drawn for it: as much more as the passes read around it */
  shown: Area;
  area: Area;
  drawn: Area;
  whole: { width: number; height: number };
  /** long edge of the uncropped picture at this size */
  edge: number;
  film: FilmPlane;
  /** of all of the level */
  size: { width: number; height: number };
  needed: Area;
  source: Area;
  view: View | null;
  detail: DetailTask | null;
  fringes: { lens: Lens; neutral: Vector3 } | null;
}

/** The view of a frame under groundwork: geometry and lens together. */
export const frameView = (ground: Groundwork | null, frame: { width: number; height: number; fileLens?: FileLens | null }): View => {
  const g = ground ?? plainGroundwork;
  return viewOf(
    g.geometry,
    frame.width,
    frame.height,
    lensMapOf(g.lens, frame.fileLens ?? null, { width: frame.width, height: frame.height }),
  );
};
/** The film plane: the uncropped, straightened frame, and where the crop's corner lies on it. */
function filmPlane(g: Groundwork['geometry'], frame: { width: number; height: number }): FilmPlane {
  const { width, height } = turnedSize(g, frame.width, frame.height),
    edge = Math.max(width, height);
  return {
    left: Math.round(g.crop.x * width) / edge,
    top: Math.round(g.crop.y * height) / edge,
    width: width / edge,
    height: height / edge,
  };
}
/** Plans the drawing of a rectangle of the picture (after geometry) at a level; null is the whole picture. `reach`: how far the passes read around it, in shares of the long edge. */
export function drawingOf(
  ground: Groundwork | null,
  frame: DrawnFrame,
  wanted: number,
  area: Area | null,
  { mask = false, reach = 0 }: { mask?: boolean; reach?: number } = {},
): Drawing {
  const g = ground ?? plainGroundwork,
    full = frameView(g, frame),
    warps = !isWhole(full, frame.width, frame.height),
    halved = warps && wanted > 0,
    level = halved ? wanted - 1 : wanted,
    size = levelSize(frame.width, frame.height, level),
    view = warps ? viewAtLevel(full, level) : null;
  const out = warps ? viewAtLevel(full, wanted) : size,
    whole = { width: out.width, height: out.height },
    inner = view ? { width: view.width, height: view.height } : size,
    shown = area ?? { x: 0, y: 0, ...whole },
    edge = Math.max(frame.width, frame.height) / 2 ** wanted,
    // in steps, so that a drag of a size does not ask for other plates each time
    a = grown(shown, Math.ceil((reach * edge) / 16) * 16, whole),
    k = halved ? 2 : 1,
    own = { x: a.x * k, y: a.y * k, width: a.width * k, height: a.height * k };
  const fringes = defringes(g.lens) && fringeHalo(level) > 0 ? { lens: g.lens, neutral: frame.neutral ?? ([1, 1, 1] as const) } : null,
    drawn = fringes ? grown(own, fringeHalo(level), inner) : own;
  const needed = view ? sourceArea(view, drawn, size) : drawn,
    detail =
      detailActs(g.detail) || mask
        ? { settings: g.detail, noise: frame.noise, optics: frame.optics ?? { aperture: null, pitchUm: null }, mask }
        : null;
  return {
    level,
    halved,
    shown,
    area: a,
    drawn,
    whole,
    edge,
    film: filmPlane(g.geometry, frame),
    size,
    needed,
    view,
    source: detail ? grown(needed, detailHalo(g.detail, level, mask), size) : needed,
    detail,
    fringes,
  };
}

/** Text that tells two drawings apart; a lens' tables follow from the lens. */
export const drawingKey = (d: Drawing): string => JSON.stringify(d, (name, value: unknown) => (name === 'radial' ? undefined : value));

/** The plate of a drawing's rectangle, from the part of the level it asked for. */
export function drawPlate(kernels: Kernels, drawing: Drawing, piece: Plate): Plate {
  const { detail, needed, source, view, area, drawn, fringes } = drawing;
  const clean = detail ? detailPlate(kernels, detail, drawing.level, piece, source, needed) : piece,
    held = detail ? needed : source;
  const warped = view
    ? warpPlate(kernels, view, drawn, clean, held, drawing.size)
    : cut(clean, { ...needed, x: needed.x - held.x, y: needed.y - held.y });
  const k = drawing.halved ? 2 : 1,
    clear = fringes && !detail?.mask ? withoutFringes(kernels, fringes.lens, fringes.neutral, drawing.level, warped) : warped;
  const own = cut(clear, { x: area.x * k - drawn.x, y: area.y * k - drawn.y, width: area.width * k, height: area.height * k });
  return drawing.halved ? halvePlate(kernels, own) : own;
}
/** A drawn mask as grey pixels. */
export function maskPixels(plate: Plate): Uint8ClampedArray<ArrayBuffer> {
  const out = new Uint8ClampedArray(plate.width * plate.height * 4);
  for (let i = 0; i < plate.width * plate.height; i++) {
    const v = ((plate.data[i]! - plateOffset) / plateScale) * 255;
    for (let c = 0; c < 3; c++) out[i * 4 + c] = v;
    out[i * 4 + 3] = 255;
  }
  return out;
}
const cut = (plate: Plate, a: Area): Plate =>
  a.width === plate.width && a.height === plate.height ? plate : cutPlate(plate, a.x, a.y, a.width, a.height);

/** The drawing a frame's guide is made of: the whole picture, small, before detail. */
export function guideDrawing(ground: Groundwork | null, frame: DrawnFrame): GuideDrawing {
  const picture = { width: frame.width, height: frame.height },
    light = lensGainOf((ground ?? plainGroundwork).lens, frame.fileLens ?? null, picture);
  return {
    picture,
    light,
    full: frameView(ground, frame),
    ...drawingOf(
      ground && {
        ...ground,
        detail: plainDetail,
        lens: { ...ground.lens, purpleFringe: plainLens.purpleFringe, greenFringe: plainLens.greenFringe },
      },
      frame,
      guideLevel(frame.width, frame.height, plateLevels),
      null,
    ),
  };
}
/** A drawing of the whole, small picture with the gain of its lens. */
export interface GuideDrawing extends Drawing {
  picture: { width: number; height: number };
  light: LensGain | null;
  full: View;
}
/** Whether a plan needs to know the whole picture: for zones, maps, or the rebuilding of what has clipped. */
export const needsGuide = (plan: Plan): boolean => recovers(plan) || plan.passes.some((p) => p.kernel === 'zones' || readsPicture(p));
const recovers = (plan: Plan): boolean => plan.scene[recoveryAt]! > 0;
/** What a plan needs to know of the whole picture: the guide of its zones, the maps of its passes, the colours around what has clipped. */
export interface WholePicture {
  guide: Guide | null;
  maps: Maps;
  surround: Surround | null;
}
export const knowsNothing: WholePicture = { guide: null, maps: [], surround: null };
/** The surround of a small plate under a drawing, which no balance or exposure changes. */
const surrounds = new WeakMap<Plate, { key: string; surround: Surround | null }>();
function surroundIn(small: Plate, drawing: Drawing, drawn: Plate): Surround | null {
  const key = drawingKey(drawing),
    kept = surrounds.get(small);
  if (kept?.key === key) return kept.surround;
  const surround = surroundOf(drawn);
  surrounds.set(small, { key, surround });
  return surround;
}
/** That, from the small plate's part that `guideDrawing` asks for; nothing when the plan needs nothing. */
export function wholeFor(kernels: Kernels, plan: Plan, { light, picture, full, ...drawing }: GuideDrawing, small: Plate): WholePicture {
  if (!needsGuide(plan)) return knowsNothing;
  const { width, height } = drawing.whole,
    plate = drawPlate(kernels, drawing, small);
  const guide = plan.passes.some((p) => p.kernel === 'zones')
    ? zoneGuide(
        plate,
        plan.scene,
        light && ((x, y) => gainAt(light, picture, full, ((x + 0.5) * full.width) / width, ((y + 0.5) * full.height) / height)),
      )
    : null;
  const surround = recovers(plan) ? surroundIn(small, drawing, plate) : null;
  return { guide, surround, maps: mapsFor(kernels, plan, plate, { guide, surround, edge: drawing.edge, film: drawing.film }) };
}

/** Where a drawn plate lies for its rendering. */
export const originOf = (drawing: Drawing, known: WholePicture | null): Origin => ({
  x: drawing.area.x,
  y: drawing.area.y,
  whole: drawing.whole,
  edge: drawing.edge,
  film: drawing.film,
  ...known,
});
/** What was asked for of a rendered drawing's pixels. */
export function shownOf<Pixels extends Uint8Array | Uint8ClampedArray>(drawing: Drawing, pixels: Pixels): Pixels {
  const { shown, area } = drawing;
  if (shown.width === area.width && shown.height === area.height) return pixels;
  const bytes = pixels.length / (area.width * area.height),
    out = pixels.slice(0, shown.width * shown.height * bytes) as Pixels;
  for (let j = 0; j < shown.height; j++) {
    const from = ((shown.y - area.y + j) * area.width + shown.x - area.x) * bytes;
    out.set(pixels.subarray(from, from + shown.width * bytes), j * shown.width * bytes);
  }
  return out;
}

/** The size of the picture that comes out. */
export function outputSize(ground: Groundwork | null, frame: { width: number; height: number }): { width: number; height: number } {
  if (!ground) return { width: frame.width, height: frame.height };
  const { width, height } = viewOf(ground.geometry, frame.width, frame.height);
  return { width, height };
}
