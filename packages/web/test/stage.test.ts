import { plainGroundwork, type Groundwork } from '@dyepot/core';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { lineDrawn } from '../src/ground/lineDrawn.ts';
import type { Frame } from '../src/types.ts';
import { meanAbout, pixelAt, probeWords } from '../src/view/canvasReading.ts';
import { draftPiece, layOut } from '../src/view/layout.ts';
import { pieceMap } from '../src/view/pieceMap.ts';

const size = fc.record({ width: fc.integer({ min: 400, max: 7000 }), height: fc.integer({ min: 400, max: 7000 }) }),
  stage = { width: 830, height: 600 },
  share = fc.double({ min: 0.02, max: 0.98, noNaN: true }),
  view = { centre: { x: 0.5, y: 0.5 }, compare: 'off', wipe: 0.5, across: false, limit: null, limiting: false, surround: 'mid' } as const;
/** A canvas that knows where it stands, and four pixels. */
const canvasAt = (box: { left: number; top: number; width: number; height: number }, pixels: number[] = []): HTMLCanvasElement =>
  ({
    width: 2,
    height: 2,
    getBoundingClientRect: () => box,
    getContext: () => ({
      getImageData: (x: number, y: number, w: number, h: number) => ({
        data: Array.from({ length: w * h }, (_, i) => (y + Math.floor(i / w)) * 2 + x + (i % w)).flatMap((i) =>
          pixels.slice(i * 4, i * 4 + 4),
        ),
      }),
    }),
  }) as unknown as HTMLCanvasElement;

describe('where places of the picture lie in the stage', () => {
  it('a place goes to the stage and is found again under the pointer there, fitted and magnified', () =>
    fc.assert(
      fc.property(size, fc.constantFrom('fit', 'fill', 1, 2, 4), share, share, (picture, zoom, x, y) => {
        const laid = layOut(picture, stage, { ...view, zoom: zoom as 'fit' }, 1),
          map = pieceMap(picture, laid.piece, laid.box),
          at = map.toStage({ x, y });
        if (!at) return;
        const back = map.fromClient(canvasAt(laid.box), at.left, at.top)!;
        expect(back.x).toBeCloseTo(x, 6);
        expect(back.y).toBeCloseTo(y, 6);
      }),
    ));
  it('the whole picture as an area is the box of the whole', () =>
    fc.assert(
      fc.property(size, (picture) => {
        const laid = layOut(picture, stage, { ...view, zoom: 'fit' }, 1),
          box = pieceMap(picture, laid.piece, laid.box).toBox({ x: 0, y: 0, width: 1, height: 1 });
        expect(box.width).toBeCloseTo(laid.box.width, 6);
        expect(box.left).toBeCloseTo(laid.box.left, 6);
      }),
    ));
  it('what lies outside the piece lies nowhere', () => {
    const map = pieceMap(
      { width: 1000, height: 800 },
      { level: 0, x: 400, y: 300, width: 200, height: 100 },
      { left: 0, top: 0, width: 400, height: 200 },
    );
    expect(map.inPiece({ x: 0.1, y: 0.5 })).toBeNull();
    expect(map.inPiece({ x: 0.5, y: 0.4 })).toEqual({ x: 100, y: 20 });
    expect(map.toStage({ x: 0.5, y: 0.4 })).toEqual({ left: 200, top: 40 });
  });
  it('only whole, large pictures are drafted, from a coarser level', () => {
    const picture = { width: 6000, height: 4000 };
    expect(draftPiece(picture, { level: 2, x: 0, y: 0, width: 1500, height: 1000 }, 1)).toEqual({
      level: 3,
      x: 0,
      y: 0,
      width: 750,
      height: 500,
    });
    expect(draftPiece(picture, { level: 0, x: 100, y: 0, width: 800, height: 600 }, 1)).toBeNull();
    expect(draftPiece(picture, { level: 4, x: 0, y: 0, width: 375, height: 250 }, 1)).toBeNull();
  });
});

describe('what is read off the picture', () => {
  const pixels = [10, 20, 30, 255, 50, 60, 70, 255, 90, 100, 110, 255, 130, 140, 150, 255];
  it('a pixel, and the mean of a square', () => {
    const c = canvasAt({ left: 0, top: 0, width: 2, height: 2 }, pixels);
    expect(pixelAt(c, { x: 1.4, y: 0.2 })).toEqual([50, 60, 70]);
    expect(meanAbout(c, { x: 1, y: 1 }, 2)).toEqual([70, 80, 90]);
  });
  it('words: codes, light, OKLCh and zone; a grey has no hue; 118 is middle grey in zone V (common practice)', () => {
    expect(probeWords([118, 118, 118])).toMatch(/^R 118 G 118 B 118 · linear 0\.181 .* h – · zone 5\.0$/);
    // OKLab's published red: L 0.628, C 0.258, h 29°
    expect(probeWords([255, 0, 0])).toMatch(/L 0\.63 C 0\.258 h 29°/);
  });
});

describe('a line drawn over the picture', () => {
  const frame = { width: 3000, height: 2000, fileLens: null } as unknown as Frame,
    ground: Groundwork = plainGroundwork,
    at = (x: number, y: number): { x: number; y: number } => ({ x: x / 3000, y: y / 2000 }),
    horizon = { from: at(500, 1000), to: at(2500, 1000 + 2000 * Math.tan((3 * Math.PI) / 180)) };
  it('levels a horizon that falls by 3°', () => {
    const done = lineDrawn({ line: horizon, lines: [], lining: 'level', ground, frame });
    expect('geometry' in done && done.geometry.straighten).toBeCloseTo(-3, 1);
    expect('words' in done && done.words).toMatch(/^Straighten -3\.0°$/);
  });
  it('an upright that leans is set upright by the same rule', () => {
    const done = lineDrawn({
      line: { from: at(1500, 1800), to: at(1500 + 1600 * Math.tan((2 * Math.PI) / 180), 200) },
      lines: [],
      lining: 'level',
      ground,
      frame,
    });
    expect('geometry' in done && Math.abs(done.geometry.straighten)).toBeCloseTo(2, 1);
  });
  it('of verticals the first waits; two that meet above are set parallel', () => {
    const left = { from: at(600, 1900), to: at(800, 100) },
      right = { from: at(2400, 1900), to: at(2200, 100) };
    expect(lineDrawn({ line: left, lines: [], lining: 'verticals', ground, frame })).toEqual({ wait: true });
    const done = lineDrawn({ line: right, lines: [left], lining: 'verticals', ground, frame });
    expect('geometry' in done && Math.abs(done.geometry.vertical)).toBeGreaterThan(3);
    expect('geometry' in done && Math.abs(done.geometry.straighten)).toBeLessThan(0.2);
  });
});
