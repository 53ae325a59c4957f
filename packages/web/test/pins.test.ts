import { common, maskOf } from '@dyepot/core';
import { describe, expect, it } from 'vitest';
import { pinAt } from '../src/where/pinAt.ts';

// the uncropped frame is half as large again as it is high, and all of it is seen
const film = { from: (x: number, y: number) => ({ x, y: y * 1.5 }) };
describe('the pin of a place', () => {
  it('stands where its first part lies: in a pool’s middle, on a gradient’s half, at a stroke’s beginning, in a box', () => {
    expect(pinAt(maskOf({ ...common, kind: 'radial', centre: [0.3, 0.4], radii: [0.1, 0.1], turn: 0, feather: 0.5 }), film)).toEqual({
      x: 0.3,
      y: 0.4,
    });
    expect(pinAt(maskOf({ ...common, kind: 'gradient', from: [0.5, 0.2], to: [0.5, 0.6], middle: 0.25 }), film)!.y).toBeCloseTo(0.3, 9);
    const stroke = (erase: boolean, x: number): object => ({
        erase,
        size: 0.1,
        feather: 0.5,
        flow: 1,
        points: [x, 4000, 100, 9000, 4000, 100],
      }),
      brush = maskOf({ ...common, kind: 'brush', strokes: [stroke(true, 1000), stroke(false, 2000)] as never });
    expect(pinAt(brush, film)!.x).toBeCloseTo(0.2, 9);
    expect(pinAt(brush, film)!.y).toBeCloseTo(0.6, 9);
    expect(pinAt(maskOf({ ...common, kind: 'figure', box: [0.2, 0.1, 0.2, 0.4], width: 1, height: 1, data: '' }), film)).toEqual({
      x: expect.closeTo(0.3, 9),
      y: expect.closeTo(0.45, 9),
    });
  });
  it('of a named place stands where that lies; one that is not there has none', () => {
    const pool = maskOf({ ...common, kind: 'radial', centre: [0.3, 0.4], radii: [0.1, 0.1], turn: 0, feather: 0.5 }),
      using = maskOf({ ...common, kind: 'named', mask: 'm1' });
    expect(pinAt(using, film, [{ id: 'm1', name: 'Pool', mask: pool }])).toEqual({ x: 0.3, y: 0.4 });
    expect(pinAt(using, film, [{ id: 'm2', name: 'Other', mask: pool }])).toBeNull();
    expect(pinAt(using, film)).toBeNull();
  });
  it('stays within the picture, and is not there for what lies nowhere in particular', () => {
    expect(pinAt(maskOf({ ...common, kind: 'radial', centre: [1.4, -0.2], radii: [1, 1], turn: 0, feather: 1 }), film)).toEqual({
      x: 0.98,
      y: 0.02,
    });
    expect(pinAt(maskOf({ ...common, kind: 'found', what: 'sky' }), film)).toBeNull();
    expect(pinAt(maskOf({ ...common, kind: 'brush', strokes: [] }), film)).toBeNull();
  });
});
