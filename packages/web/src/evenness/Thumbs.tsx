import { useEffect, useRef } from 'react';
import { Picture } from '../kit/Picture.tsx';
import { Rove } from '../kit/Rove.tsx';
import { sheetPictureUrl } from '../pictures.ts';
import type { Shoot } from '../types.ts';
import type { Stand } from './layout.ts';

/** Pictures shown at once, about the chosen one. */
const most = 60;

/** The frames in shooting order, with how far each is from its anchor. */
export function Thumbs({
  shoot,
  stands,
  chosen,
  tolerance,
  onChoose,
}: {
  shoot: Shoot;
  stands: readonly Stand[];
  chosen: number | null;
  tolerance: number;
  onChoose: (id: number) => void;
}): React.JSX.Element {
  const at = Math.max(
      0,
      stands.findIndex((s) => s.frame.id === chosen),
    ),
    from = Math.max(0, Math.min(stands.length - most, at - most / 2)),
    part = stands.slice(from, from + most),
    own = useRef<HTMLDivElement>(null);
  useEffect(() => {
    own.current?.querySelector('[aria-pressed=true]')?.scrollIntoView({ block: 'nearest', inline: 'nearest' });
  }, [chosen]);
  return (
    <div ref={own}>
      <Rove className="even-thumbs" role="group" aria-label="Frames in shooting order">
        {part.map(({ frame: f, isAnchor }) => {
          const frame = shoot.frames.find((s) => s.id === f.id),
            off = f.now?.difference ?? 0;
          return (
            frame && (
              <button key={f.id} type="button" aria-pressed={f.id === chosen} onClick={() => onChoose(f.id)} title={f.why ?? f.name}>
                <Picture alt="" src={sheetPictureUrl(frame, shoot.look, 360, shoot.rendition)} />
                <span className={off > tolerance ? 'out' : ''}>
                  {f.name} {isAnchor ? <b>anchor</b> : f.now && off.toFixed(1)}
                </span>
              </button>
            )
          );
        })}
      </Rove>
    </div>
  );
}
