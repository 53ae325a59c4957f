import { outputSize, renditionLook, type Look, type OwnSteps } from '@dyepot/core';
import { useRef } from 'react';
import { skipToken } from '@reduxjs/toolkit/query';
import { useLookQuery } from '../api.ts';
import { EvenMark } from '../evenness/index.ts';
import { marks } from '../shoots/index.ts';
import type { Frame, Shoot } from '../types.ts';
import type { Darkroom } from '../view/darkroom.ts';
import { layOut, type ViewState } from '../view/layout.ts';
import { useFrameRender } from '../view/useFrameRender.ts';
import { useSizeOf } from '../view/useSizeOf.ts';
import { useZoomGestures } from '../view/useZoomGestures.ts';

/** A frame under a look, one of several beside one another. */
export interface Shown {
  key: string;
  frame: Frame;
  /** null: none; a look that is named here is not necessarily the one the frame wears */
  look: { id: number; revision: number; name: string } | null;
}
const workers = [[0], [1]] as const;

export function Side({
  shown,
  index,
  steps,
  darkroom,
  shoot,
  view,
  before,
  inHand,
  says,
  onView,
  onTake,
}: {
  shown: Shown;
  index: number;
  steps: OwnSteps | null;
  darkroom: Darkroom;
  shoot: Shoot;
  view: ViewState;
  before: boolean;
  inHand: boolean;
  /** more about it than its name */
  says: string;
  onView: (change: Partial<ViewState>) => void;
  onTake: () => void;
}): React.JSX.Element {
  const { frame, look: worn } = shown,
    stage = useRef<HTMLDivElement>(null),
    canvas = useRef<HTMLCanvasElement>(null),
    drag = useRef<{ x: number; y: number; centre: ViewState['centre'] } | null>(null),
    size = useSizeOf(stage),
    density = Math.min(2, window.devicePixelRatio || 1),
    picture = outputSize(frame.groundwork, frame),
    { data: read } = useLookQuery(worn ? { id: worn.id, revision: worn.revision } : skipToken),
    look: Look | null = worn ? (read?.document ?? null) : renditionLook(shoot.rendition),
    laid = size.width > 0 ? layOut(picture, size, view, density) : null;
  const message = useFrameRender(darkroom, {
    name: `side-${index}`,
    frame,
    piece: laid?.piece ?? null,
    look: before ? null : look,
    ground: frame.groundwork,
    steps: before ? null : steps,
    rank: inHand ? 1 : 2,
    canvas,
    workers: workers[index % 2]!,
    wanted: worn === null || read !== undefined,
  });
  useZoomGestures(stage, picture, size, view, density, onView, () => {
    drag.current = null;
  });
  const mark = marks.find((m) => m.mark === frame.mark),
    scale = laid ? laid.scale / density : 1;
  return (
    <figure
      className={`side ${inHand ? 'in-hand' : ''} ${frame.rating < 0 ? 'rejected' : ''}`}
      data-side={shown.key}
      onPointerDownCapture={onTake}
    >
      <div
        ref={stage}
        className={`side-stage ${view.zoom === 'fit' ? '' : 'pans'}`}
        onPointerDown={(e) => {
          if (e.button !== 0 || view.zoom === 'fit') return;
          e.currentTarget.setPointerCapture(e.pointerId);
          drag.current = { x: e.clientX, y: e.clientY, centre: view.centre };
        }}
        onPointerMove={(e) => {
          const d = drag.current;
          if (!d || e.buttons === 0) return;
          onView({
            centre: {
              x: Math.min(1, Math.max(0, d.centre.x - (e.clientX - d.x) / (picture.width * scale))),
              y: Math.min(1, Math.max(0, d.centre.y - (e.clientY - d.y) / (picture.height * scale))),
            },
          });
        }}
        onPointerUp={() => {
          drag.current = null;
        }}
        onDoubleClick={() => onView({ zoom: view.zoom === 'fit' ? 1 : 'fit' })}
      >
        <canvas
          ref={canvas}
          data-testid="side"
          style={
            laid
              ? {
                  left: laid.box.left,
                  top: laid.box.top,
                  width: laid.box.width,
                  height: laid.box.height,
                  imageRendering: typeof view.zoom === 'number' && view.zoom >= 1 ? 'pixelated' : 'auto',
                }
              : { display: 'none' }
          }
        />
        {mark && <i className="mark-line" style={{ background: mark.colour }} title={mark.words} />}
        {message && <p className="stage-message">{message}</p>}
      </div>
      <figcaption>
        <button type="button" className="side-name" aria-pressed={inHand} data-cell={index} tabIndex={inHand ? 0 : -1} onFocus={onTake}>
          {frame.name}
          <span className="unseen">
            {frame.rating > 0 && `, rated ${frame.rating}`}
            {frame.rating < 0 && ', rejected'}
            {mark && `, ${mark.words}`}
          </span>
        </button>
        <b aria-hidden>{frame.rating < 0 ? '✕' : '★'.repeat(frame.rating)}</b>
        <EvenMark id={frame.id} />
        <small title={says}>{before ? 'groundwork only' : says}</small>
      </figcaption>
    </figure>
  );
}
