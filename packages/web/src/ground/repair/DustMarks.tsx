import { useEffect } from 'react';
import { useAppDispatch, useAppSelector } from '../../store.ts';
import type { Placed } from '../../view/FrameView.tsx';
import type { PlatePlace } from '../../view/platePlace.ts';
import type { Frame } from '../../types.ts';
import { groundAct } from '../groundSlice.ts';
import type { DustHand } from './useDust.ts';

/** Specks proposed, ringed on the picture, the one that is pointed at with a cross; under them, where asked for, the picture made to show dust. */
export function DustMarks({
  dust,
  frame,
  placed,
  place,
  unit,
}: {
  dust: DustHand;
  frame: Frame;
  placed: Placed;
  place: PlatePlace;
  /** pixels of the stage for the plate’s long edge */
  unit: number;
}): React.JSX.Element {
  const dispatch = useAppDispatch(),
    near = useAppSelector((s) => typeof s.ground.view.zoom === 'number'),
    { whole } = placed,
    { current } = dust;
  // at 100 % the picture follows
  useEffect(() => {
    if (near && current) dispatch(groundAct.viewSet({ centre: place.from(current) }));
  }, [near, current?.x, current?.y]);
  return (
    <g className="dust">
      {dust.pictured && (
        <image
          href={`/api/frames/${frame.id}/dust-picture?v=${frame.hash.slice(0, 8)}${frame.repairStamp}`}
          x={whole.left}
          y={whole.top}
          width={whole.width}
          height={whole.height}
          preserveAspectRatio="none"
          data-testid="dust-picture"
        />
      )}
      {dust.proposed?.map((s) => {
        const at = place.from(s),
          [x, y] = [whole.left + at.x * whole.width, whole.top + at.y * whole.height],
          r = Math.max(7, s.radius * unit * 1.6);
        return (
          <g key={`${s.x} ${s.y}`} className={s === current ? 'current' : ''} data-speck={s === current ? 'current' : 'other'}>
            <circle cx={x} cy={y} r={r} />
            {s === current && <path d={`M${x - r - 9},${y}h8M${x + r + 1},${y}h8M${x},${y - r - 9}v8M${x},${y + r + 1}v8`} />}
          </g>
        );
      })}
    </g>
  );
}
