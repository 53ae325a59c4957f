import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { levelSize, plateLevels } from '@dyepot/core';
import { layOut, nextZoom, pinched, scaleOf, zoomAt, zoomSteps, type Zoom } from '../src/view/layout.ts';
import { pictures, stages, centres, zooms } from './viewTrial.ts';

describe('the view of a frame', () => {
  it('fitted, the whole picture lies inside the stage, in the middle, and is never enlarged', () =>
    fc.assert(
      fc.property(pictures, stages, (picture, stage) => {
        const { box, piece, scale } = layOut(picture, stage, { zoom: 'fit', centre: { x: 0.3, y: 0.9 } }, 1);
        expect(box.left).toBeGreaterThanOrEqual(20);
        expect(box.left + box.width).toBeLessThanOrEqual(stage.width - 20);
        expect(box.top + box.height).toBeLessThanOrEqual(stage.height - 20);
        expect(Math.abs(box.left - (stage.width - box.width - box.left))).toBeLessThanOrEqual(1);
        expect(scale).toBeLessThanOrEqual(1);
        expect(piece).toEqual({ level: piece.level, x: 0, y: 0, ...levelSize(picture.width, picture.height, piece.level) });
      }),
    ));
  it('filling, the stage is covered', () =>
    fc.assert(
      fc.property(pictures, stages, (picture, stage) => {
        const scale = scaleOf('fill', picture, stage, 1);
        expect(picture.width * scale).toBeGreaterThanOrEqual(stage.width - 1e-6);
        expect(picture.height * scale).toBeGreaterThanOrEqual(stage.height - 1e-6);
      }),
    ));
  it('every piece lies in its level and covers what is seen; from 100 % on it is the picture’s own pixels', () =>
    fc.assert(
      fc.property(pictures, stages, centres, zooms, (picture, stage, centre, zoom) => {
        const { piece, box, seen, scale } = layOut(picture, stage, { zoom, centre }, 1),
          size = levelSize(picture.width, picture.height, piece.level);
        expect(piece.x).toBeGreaterThanOrEqual(0);
        expect(piece.x + piece.width).toBeLessThanOrEqual(size.width);
        expect(piece.y + piece.height).toBeLessThanOrEqual(size.height);
        expect(piece.level).toBeLessThan(plateLevels);
        if (scale >= 1) expect(piece.level).toBe(0);
        expect(seen.left).toBeGreaterThanOrEqual(0);
        expect(seen.left + seen.width).toBeLessThanOrEqual(1 + 1e-9);
        // what is drawn reaches at least as far as the stage or the picture's edge
        const right = Math.min(stage.width, box.left + box.width),
          shown = Math.min(stage.width, picture.width * (box.width / (piece.width * (picture.width / size.width))));
        if (zoom !== 'fit')
          expect(right - Math.max(0, box.left)).toBeGreaterThan(Math.min(shown, stage.width) - 4 - 2 ** piece.level * scale * 2);
      }),
    ));
  it('zooming keeps the place under the pointer where it is', () =>
    fc.assert(
      fc.property(
        fc.record({ x: fc.integer({ min: 300, max: 500 }), y: fc.integer({ min: 250, max: 350 }) }),
        fc.constantFrom<Zoom>(1, 2, 4),
        (at, zoom) => {
          const picture = { width: 6000, height: 4000 },
            stage = { width: 800, height: 600 },
            from = { zoom: 0.5 as Zoom, centre: { x: 0.5, y: 0.5 } },
            to = zoomAt(picture, stage, from, zoom, at, 1);
          const place = (view: { zoom: Zoom; centre: { x: number; y: number } }): [number, number] => {
            const s = scaleOf(view.zoom, picture, stage, 1);
            return [
              view.centre.x * picture.width + (at.x - stage.width / 2) / s,
              view.centre.y * picture.height + (at.y - stage.height / 2) / s,
            ];
          };
          const [ax, ay] = place(from),
            [bx, by] = place(to);
          expect(Math.abs(ax - bx)).toBeLessThan(3);
          expect(Math.abs(ay - by)).toBeLessThan(3);
        },
      ),
    ));
  it('plus and minus go through 25 to 800 %, and below fitting comes fit', () => {
    const picture = { width: 6000, height: 4000 },
      stage = { width: 800, height: 600 };
    let zoom: Zoom = 'fit';
    const seen: Zoom[] = [];
    for (let i = 0; i < 7; i++) {
      zoom = nextZoom(zoom, 1, picture, stage, 1);
      seen.push(zoom);
    }
    expect(seen).toEqual([...zoomSteps, 8]);
    for (let i = 0; i < 8; i++) zoom = nextZoom(zoom, -1, picture, stage, 1);
    expect(zoom).toBe('fit');
  });
});

describe('two fingers', () => {
  const picture = { width: 6000, height: 4000 },
    stage = { width: 900, height: 600 },
    view = { zoom: 0.5 as Zoom, centre: { x: 0.4, y: 0.6 } };
  const placeAt = (v: { zoom: Zoom; centre: { x: number; y: number } }, p: { x: number; y: number }): number[] => {
    const k = scaleOf(v.zoom, picture, stage, 1);
    return [v.centre.x * picture.width + (p.x - stage.width / 2) / k, v.centre.y * picture.height + (p.y - stage.height / 2) / k];
  };
  it.each([
    [120, 240, 1],
    [240, 180, 0.375],
    [100, 5000, 8],
  ])('%f to %f pixels apart magnify by their ratio; what was between them still is', (gap, to, zoom) => {
    const from = { view, middle: { x: 300, y: 200 }, gap },
      next = pinched(picture, stage, from, { middle: { x: 340, y: 180 }, gap: to }, 1) as {
        zoom: number;
        centre: { x: number; y: number };
      };
    expect(next.zoom).toBeCloseTo(zoom, 9);
    placeAt(next, { x: 340, y: 180 }).forEach((v, i) => expect(v).toBeCloseTo(placeAt(view, from.middle)[i]!, 0));
  });
  it('closed far enough, they fit the picture', () =>
    expect(pinched(picture, stage, { view, middle: { x: 300, y: 200 }, gap: 400 }, { middle: { x: 300, y: 200 }, gap: 40 }, 1)).toEqual({
      zoom: 'fit',
    }));
});
