import { emptyLook, newStep, type Look, type LookStep } from '@dyepot/core';
import { memo, useMemo } from 'react';
import type { Frame } from '../types.ts';
import type { Darkroom } from '../view/darkroom.ts';
import { Rendered } from './Rendered.tsx';

const stops = [-3, -2, -1, 0, 1, 2, 3];
const workerOf = [[0], [1]] as const;

/** One frame through the stock, three stops under to three over. */
export const OverUnder = memo(function OverUnder({
  darkroom,
  frame,
  film,
}: {
  darkroom: Darkroom;
  frame: Frame;
  film: LookStep;
}): React.JSX.Element {
  const looks = useMemo(
    () =>
      stops.map((ev): Look => {
        const exposure = newStep('exposure', 'ev');
        return {
          ...emptyLook('strip'),
          stock: { ...film, params: { ...film.params, grain: 'left out', halation: 'left out' } },
          scene: ev === 0 ? [] : [{ ...exposure, params: { ...exposure.params, shiftEv: ev } }],
        };
      }),
    [film],
  );
  return (
    <div className="stock-strip" role="group" aria-label="One frame through the stock, three stops under to three over">
      {stops.map((ev, i) => (
        <figure key={ev}>
          <Rendered
            darkroom={darkroom}
            name={`strip-${ev}`}
            frame={frame}
            look={looks[i]!}
            width={150}
            rank={4}
            worker={workerOf[i % 2]!}
          />
          <figcaption>{ev === 0 ? 'as metered' : `${ev > 0 ? '+' : '−'}${Math.abs(ev)} EV`}</figcaption>
        </figure>
      ))}
    </div>
  );
});
