import { api } from '../api.ts';
import type { Dispatch } from '../store.ts';
import type { Frame } from '../types.ts';

/** Mends a shoot by one frame that is new or changed, in its place by name. */
export function mendFrame(dispatch: Dispatch, frame: Frame): void {
  dispatch(
    api.util.updateQueryData('shoot', frame.shootId, (shoot) => {
      const frames = shoot.frames as Frame[],
        at = frames.findIndex((f) => f.id === frame.id);
      if (at >= 0) {
        // an answer that comes late does not undo a later one
        const known = frames[at]!;
        if (
          known.groundVersion <= frame.groundVersion &&
          known.stepsVersion <= frame.stepsVersion &&
          known.repairVersion <= frame.repairVersion
        )
          frames[at] = frame;
        return;
      }
      const after = frames.findIndex((f) => f.name > frame.name);
      frames.splice(after < 0 ? frames.length : after, 0, frame);
      shoot.leadFrameId ??= frame.id;
    }),
  );
}
