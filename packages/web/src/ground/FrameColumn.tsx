import { pictureUrl } from '../api.ts';
import { Picture } from '../kit/Picture.tsx';
import type { Frame, Shoot } from '../types.ts';

/** The frames of the shoot in a column: a click opens one, a Control-click chooses it. */
export function FrameColumn({
  shoot,
  current,
  chosen,
  look,
  onChosen,
  onOpen,
}: {
  shoot: Shoot;
  current: Frame;
  chosen: ReadonlySet<number>;
  /** what the small pictures wear */
  look: Shoot['look'];
  onChosen: React.Dispatch<React.SetStateAction<ReadonlySet<number>>>;
  onOpen: (frame: Frame) => void;
}): React.JSX.Element {
  return (
    <nav className="witnesses frames-column" aria-label="Frames">
      {shoot.frames
        .filter((f) => !f.missing)
        .map((f) => (
          <button
            key={f.id}
            ref={f.id === current.id ? (node) => node?.scrollIntoView({ block: 'nearest' }) : undefined}
            type="button"
            className={`column-frame ${f.id === current.id ? 'current' : ''} ${chosen.has(f.id) ? 'chosen' : ''}`}
            aria-pressed={f.id === current.id}
            title="Control-click to choose several"
            onClick={(e) => {
              if (e.ctrlKey || e.metaKey)
                onChosen((c) => {
                  const next = new Set(c);
                  if (!next.delete(f.id)) next.add(f.id);
                  return next;
                });
              else onOpen(f);
            }}
            style={{ aspectRatio: `${f.output.width} / ${f.output.height}` }}
          >
            <Picture alt={f.name} src={pictureUrl(f, look, 360, shoot.rendition)} />
            <span>
              {f.name}
              {f.groundwork && <i title="has groundwork">●</i>}
            </span>
          </button>
        ))}
    </nav>
  );
}
