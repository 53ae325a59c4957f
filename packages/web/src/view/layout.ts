import { levelSize, plateLevels } from '@dyepot/core';
import type { Piece } from './frameJobs.ts';

/** How large a picture is shown: all of it, filling the place, or screen pixels for each of its own. */
export type Zoom = 'fit' | 'fill' | number;
export interface ViewState {
  zoom: Zoom;
  /** middle of the view as fractions of the picture */
  centre: { x: number; y: number };
  compare: 'off' | 'wipe' | 'before' | 'beside';
  wipe: number;
  /** the wipe runs across, before above and now below */
  across: boolean;
  /** readouts read only this part, as fractions of the picture; and whether it is being drawn */
  limit: { x: number; y: number; width: number; height: number } | null;
  limiting: boolean;
  surround: 'dark' | 'mid' | 'light';
  /** zones 0–X are laid over the picture */
  zones: boolean;
}
export interface Box {
  left: number;
  top: number;
  width: number;
  height: number;
}
export interface Size {
  width: number;
  height: number;
}

export const zoomSteps = [0.25, 0.5, 1, 2, 4, 8];
const clamp = (v: number, low: number, high: number): number => Math.min(high, Math.max(low, v));

/** Screen pixels for each picture pixel. */
export function scaleOf(zoom: Zoom, picture: Size, stage: Size, density: number): number {
  const fit = Math.min((stage.width - 44) / picture.width, (stage.height - 44) / picture.height, 1 / density);
  if (zoom === 'fit') return fit;
  return zoom === 'fill' ? Math.max(stage.width / picture.width, stage.height / picture.height) : zoom / density;
}

/**
 * Which level and rectangle of the picture to draw, and where it lies in the stage. Under 92 % the next smaller level is
 * never drawn larger than it is; from 100 % on it is the picture's own pixels.
 */
export function layOut(
  picture: Size,
  stage: Size,
  view: Pick<ViewState, 'zoom' | 'centre'>,
  density: number,
): { piece: Piece; box: Box; scale: number; seen: Box } {
  const scale = scaleOf(view.zoom, picture, stage, density);
  let level = 0;
  while (level < plateLevels - 1 && picture.width >> (level + 1) >= picture.width * scale * density * 0.92) level++;
  // a level's sides are whole numbers, so that the two scales differ a little
  const size = levelSize(picture.width, picture.height, level),
    kx = picture.width / size.width,
    ky = picture.height / size.height;
  const seen = { width: Math.min(picture.width, stage.width / scale), height: Math.min(picture.height, stage.height / scale) };
  const left = clamp(view.centre.x * picture.width - seen.width / 2, 0, picture.width - seen.width),
    top = clamp(view.centre.y * picture.height - seen.height / 2, 0, picture.height - seen.height);
  const offX = Math.max(0, (stage.width - picture.width * scale) / 2),
    offY = Math.max(0, (stage.height - picture.height * scale) / 2);
  // a margin round what is seen, on a grid, so that small moves need no new piece
  const margin = 128,
    x = level > 0 && size.width * size.height < 1.6e6 ? 0 : Math.max(0, Math.floor((left / kx - margin) / 64) * 64),
    y = level > 0 && size.width * size.height < 1.6e6 ? 0 : Math.max(0, Math.floor((top / ky - margin) / 64) * 64);
  const whole = level > 0 && size.width * size.height < 1.6e6,
    width = whole ? size.width : Math.min(size.width - x, Math.ceil(seen.width / kx) + 2 * margin + 64),
    height = whole ? size.height : Math.min(size.height - y, Math.ceil(seen.height / ky) + 2 * margin + 64);
  const place = (v: number): number => (view.zoom === 'fit' ? Math.round(v) : v);
  return {
    piece: { level, x, y, width, height },
    scale: scale * density,
    seen: {
      left: left / picture.width,
      top: top / picture.height,
      width: seen.width / picture.width,
      height: seen.height / picture.height,
    },
    box: {
      left: Math.round((x * kx - left) * scale + offX),
      top: Math.round((y * ky - top) * scale + offY),
      width: place(width * kx * scale),
      height: place(height * ky * scale),
    },
  };
}

/** The view after zooming to `zoom` with the place under the pointer (in the stage) staying where it is. */
export function zoomAt(
  picture: Size,
  stage: Size,
  view: Pick<ViewState, 'zoom' | 'centre'>,
  zoom: Zoom,
  at: { x: number; y: number },
  density: number,
): Pick<ViewState, 'zoom' | 'centre'> {
  const { box, piece } = layOut(picture, stage, view, density),
    before = scaleOf(view.zoom, picture, stage, density),
    after = scaleOf(zoom, picture, stage, density),
    k = 2 ** piece.level;
  const px = (at.x - box.left) / before + piece.x * k,
    py = (at.y - box.top) / before + piece.y * k;
  return {
    zoom,
    centre: {
      x: clamp((px - (at.x - stage.width / 2) / after) / picture.width, 0, 1),
      y: clamp((py - (at.y - stage.height / 2) / after) / picture.height, 0, 1),
    },
  };
}
/** The view when two fingers that were so far apart round one place have come to another: magnified by their distance, carried with their middle. */
export function pinched(
  picture: Size,
  stage: Size,
  from: { view: Pick<ViewState, 'zoom' | 'centre'>; middle: { x: number; y: number }; gap: number },
  to: { middle: { x: number; y: number }; gap: number },
  density: number,
): Partial<ViewState> {
  const fit = scaleOf('fit', picture, stage, density) * density,
    wanted = (scaleOf(from.view.zoom, picture, stage, density) * density * to.gap) / from.gap;
  if (wanted <= fit * 1.001) return { zoom: 'fit' };
  const zoom = Math.min(8, wanted),
    { centre } = zoomAt(picture, stage, from.view, zoom, from.middle, density),
    scale = zoom / density;
  return {
    zoom,
    centre: {
      x: clamp(centre.x - (to.middle.x - from.middle.x) / scale / picture.width, 0, 1),
      y: clamp(centre.y - (to.middle.y - from.middle.y) / scale / picture.height, 0, 1),
    },
  };
}
/** The next of 25–800 % above or below the present scale; below the least that is still larger than fitting comes fit. */
export function nextZoom(zoom: Zoom, way: 1 | -1, picture: Size, stage: Size, density: number): Zoom {
  const now = scaleOf(zoom, picture, stage, density) * density,
    fit = scaleOf('fit', picture, stage, density) * density;
  const next = way > 0 ? zoomSteps.find((z) => z > now * 1.02) : [...zoomSteps].reverse().find((z) => z < now * 0.98);
  return next === undefined ? (way > 0 ? 8 : 'fit') : way < 0 && next <= fit ? 'fit' : next;
}

/** From how many pixels on a whole picture is drafted first. */
const draftedPixels = 2e5;
export const isLarge = ({ width, height }: Size): boolean => width * height > draftedPixels;
/** The piece of a coarser level, `drop` levels down, that stands for a piece while the hand moves; none for small or partial ones. */
export function draftPiece(picture: Size, piece: Piece, drop: number): Piece | null {
  const level = Math.min(plateLevels - 1, piece.level + drop),
    whole = piece.x === 0 && piece.y === 0 && piece.width === levelSize(picture.width, picture.height, piece.level).width;
  return whole && isLarge(piece) && level > piece.level ? { level, x: 0, y: 0, ...levelSize(picture.width, picture.height, level) } : null;
}
