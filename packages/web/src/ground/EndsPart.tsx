import { fittedEnds, lightSpread, number, sceneParameters } from '@dyepot/core';
import { Button } from '@chakra-ui/react';
import { NumberControl } from '../kit/NumberControl.tsx';
import { useAppDispatch, useAppSelector } from '../store.ts';
import { groundAct } from './groundSlice.ts';
import type { PartProps } from './partProps.ts';

const black = number('Black end', '×1000 light', 0, 50, 0, 0.5, 1),
  white = number('White end', 'EV over grey', 1, 7, 3.4, 0.05, 2);

/** The two ends of the frame's light, with what is cut off marked. */
export function EndsPart({ frame, ground, small, set }: PartProps): React.JSX.Element {
  const dispatch = useAppDispatch(),
    clipping = useAppSelector((s) => s.ground.clipping);
  return (
    <>
      <NumberControl
        parameter={black}
        value={Math.round(ground.ends.black * 1e4) / 10}
        onChange={(v, g) => set(`Black end ${v.toFixed(1)}`, `black-${g}`, { ends: { ...ground.ends, black: v / 1000 } })}
      />
      <NumberControl
        parameter={white}
        value={ground.ends.whiteEv}
        onChange={(v, g) => set(`White end ${v.toFixed(2)} EV`, `white-${g}`, { ends: { ...ground.ends, whiteEv: v } })}
      />
      <div className="row">
        <Button
          size="xs"
          variant="outline"
          disabled={!small}
          onClick={() =>
            set('Ends fitted to the histogram', '', { ends: fittedEnds(lightSpread(small!, sceneParameters(frame.profile, ground))) })
          }
        >
          Fit to histogram
        </Button>
      </div>
      <div className="row">
        <span className="dim">Show clipped</span>
        {(['black', 'white'] as const).map((end) => (
          <button
            key={end}
            type="button"
            className={`tool ${clipping[end] ? 'on' : ''}`}
            title={`Show the ${end === 'black' ? 'darks' : 'lights'} that clip (K: both)`}
            aria-pressed={clipping[end]}
            onClick={() => dispatch(groundAct.set({ clipping: { ...clipping, [end]: !clipping[end] } }))}
          >
            {end === 'black' ? 'Darks' : 'Lights'}
          </button>
        ))}
      </div>
      <p className="purpose">
        Lights: the channels that clip, in their colour; dark grey where all do. Darks: likewise, white where all do.
      </p>
    </>
  );
}
