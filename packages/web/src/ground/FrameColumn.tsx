import { EvenMark, EvenMarksOf, useEvenMarks } from '../evenness/index.ts';
import { pictureUrl, sheetPictureUrl } from '../pictures.ts';
import { Picture } from '../kit/Picture.tsx';
import { Rove } from '../kit/Rove.tsx';
import type { Frame, Shoot } from '../types.ts';

/** The frames of the shoot in a column: a click opens one, a Control-click chooses it. */
export function FrameColumn({
  shoot,
  current,
  chosen,
  wearing,
  onChosen,
  onOpen,
}: {
  shoot: Shoot;
  current: Frame;
  chosen: ReadonlySet<number>;
  /** whether the small pictures wear their looks */
  wearing: boolean;
  onChosen: React.Dispatch<React.SetStateAction<ReadonlySet<number>>>;
  onOpen: (frame: Frame) => void;
}): React.JSX.Element {
  const choose = (id: number): void =>
    onChosen((c) => {
      const next = new Set(c);
      if (!next.delete(id)) next.add(id);
      return next;
    });
  return (
    <EvenMarksOf value={useEvenMarks(shoot)}>
      <Rove as="nav" className="witnesses frames-column" aria-label="Frames">
        {shoot.frames
          .filter((f) => !f.missing)
          .map((f) => (
            <button
              key={f.id}
              ref={f.id === current.id ? (node) => node?.scrollIntoView({ block: 'nearest' }) : undefined}
              type="button"
              className={`column-frame ${f.id === current.id ? 'current' : ''} ${chosen.has(f.id) ? 'chosen' : ''}`}
              aria-current={f.id === current.id}
              title={`${f.name}. Control-click, or Control Enter, to choose several. Page Up and Page Down go from frame to frame`}
              onKeyDown={(e) => {
                if (e.key !== 'Enter' || !e.ctrlKey) return;
                e.preventDefault();
                choose(f.id);
              }}
              onClick={(e) => {
                if (e.ctrlKey || e.metaKey) choose(f.id);
                else onOpen(f);
              }}
              style={{ aspectRatio: `${f.output.width} / ${f.output.height}` }}
            >
              <Picture
                alt=""
                src={wearing ? sheetPictureUrl(f, shoot.look, 360, shoot.rendition) : pictureUrl(f, null, 360, shoot.rendition)}
              />
              <span>
                {f.name}
                {f.groundwork && (
                  <>
                    <i title="has groundwork" aria-hidden>
                      ●
                    </i>
                    <span className="unseen">, has groundwork</span>
                  </>
                )}
                {chosen.has(f.id) && <span className="unseen">, chosen</span>} <EvenMark id={f.id} />
              </span>
            </button>
          ))}
      </Rove>
    </EvenMarksOf>
  );
}
