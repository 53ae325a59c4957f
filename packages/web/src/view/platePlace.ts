import { frameView, invert3, placeOf, through, type Groundwork } from '@dyepot/core';
import type { Frame } from '../types.ts';

type Place = { x: number; y: number };
/** From places of the picture as it is shown (shares of it) to places of the plate as it lies (shares of that), and back. */
export interface PlatePlace {
  to: (at: Place) => Place;
  from: (at: Place) => Place;
}
export function platePlaceOf(frame: Frame, ground: Groundwork | null): PlatePlace {
  const view = frameView(ground, frame),
    back = invert3(view.toSource),
    // the middle colour is drawn where the lens says; red and blue lie a hair beside it
    onPlate = (x: number, y: number): [number, number] => placeOf(view, 1, x, y);
  return {
    to: ({ x, y }) => {
      const [u, v] = onPlate(x * view.width, y * view.height);
      return { x: u / frame.width, y: v / frame.height };
    },
    from: ({ x, y }) => {
      const want: [number, number] = [x * frame.width, y * frame.height];
      let [u, v] = through(back, ...want);
      // what the lens bends is found by going back as far as one is off
      if (view.lens)
        for (let k = 0; k < 8; k++) {
          const [a, b] = onPlate(u, v),
            [p, q] = through(back, a, b),
            [s, t] = through(back, ...want);
          u += s - p;
          v += t - q;
        }
      return { x: u / view.width, y: v / view.height };
    },
  };
}
