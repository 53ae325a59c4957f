import { pointReading } from '@dyepot/core';
import { useAppDispatch } from '../store.ts';
import type { Placed } from '../view/FrameView.tsx';
import { groundAct } from './groundSlice.ts';

/** Pinned probes over the picture: each reads the pixel under it as it is now; a press takes one away. */
export function Probes({ probes, placed }: { probes: readonly { x: number; y: number }[]; placed: Placed }): React.JSX.Element {
  const dispatch = useAppDispatch();
  return (
    <>
      {probes.map((at, i) => {
        const place = placed.toStage(at),
          rgb = placed.read(at);
        if (!place || !rgb) return null;
        const { lightness, chroma, hueDegrees, zone } = pointReading(...rgb);
        return (
          <button
            key={i}
            type="button"
            className="pinned"
            data-testid="pinned"
            style={place}
            title={`L ${lightness.toFixed(2)} C ${chroma.toFixed(3)} h ${Math.round(hueDegrees)}°, zone ${zone.toFixed(1)}. Press to take it away.`}
            onPointerDown={(e) => e.stopPropagation()}
            onClick={() => dispatch(groundAct.probeRemoved(i))}
          >
            <i />
            <span>
              {i + 1} · {rgb.join(' ')}
            </span>
          </button>
        );
      })}
    </>
  );
}
