import type { Box, Size, ViewState } from './layout.ts';

/** Names which side of a comparison is before and which is now. */
export function StageTags({ view, box, stage, words }: { view: ViewState; box: Box; stage: Size; words: string }): React.JSX.Element {
  const { compare, across } = view,
    top = Math.max(0, box.top),
    left = Math.max(0, box.left),
    bottom = Math.min(stage.height, box.top + box.height);
  return (
    <>
      <b className="tag" style={{ left: left + 12, top: top + 12 }}>
        {words}
      </b>
      {(compare === 'wipe' || compare === 'beside') && (
        <b
          className="tag"
          style={
            compare === 'wipe' && across
              ? { left: left + 12, top: bottom - 30 }
              : { right: Math.max(0, stage.width - box.left - box.width) + 12, top: top + 12 }
          }
        >
          now
        </b>
      )}
    </>
  );
}
