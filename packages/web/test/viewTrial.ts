import fc from 'fast-check';
import type { Zoom } from '../src/view/layout.ts';

export const pictures = fc.record({ width: fc.integer({ min: 200, max: 9000 }), height: fc.integer({ min: 200, max: 9000 }) }),
  stages = fc.record({ width: fc.integer({ min: 400, max: 2500 }), height: fc.integer({ min: 300, max: 1500 }) });
export const centres = fc.record({ x: fc.double({ min: 0, max: 1, noNaN: true }), y: fc.double({ min: 0, max: 1, noNaN: true }) }),
  zooms = fc.constantFrom<Zoom>('fit', 'fill', 0.25, 0.5, 1, 2, 4, 8);
