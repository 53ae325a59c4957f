import { messageOf, useApplyLookMutation, useDipAgainMutation, useDressFramesMutation, useTakeOutFramesMutation } from '../api.ts';
import { complain, tell } from '../kit/notices.tsx';
import { undoTakingOut } from '../trash/undoTakingOut.ts';
import type { Frame, Shoot } from '../types.ts';

const named = (frames: readonly Frame[]): string => (frames.length === 1 ? frames[0]!.name : `${frames.length} frames`);

/** Frames with those that wear the same look of their own, or none. */
function byLook(frames: readonly Frame[]): Frame[][] {
  const groups = new Map<string, Frame[]>();
  for (const f of frames) {
    const worn = f.look ? `${f.look.id} ${f.look.revision}` : '';
    groups.set(worn, [...(groups.get(worn) ?? []), f]);
  }
  return [...groups.values()];
}

/** What is done to frames of a contact sheet; each says what it did, and takes it back from the notice. */
export function useFrameActions(
  shoot: Pick<Shoot, 'id' | 'name' | 'look'>,
  clear: () => void,
): {
  attempt: (work: Promise<unknown>, words?: string) => Promise<void>;
  take: (frames: readonly Frame[]) => Promise<void>;
  dip: (frames: readonly Frame[]) => Promise<void>;
  dress: (frames: readonly Frame[], look: Frame['look']) => Promise<void>;
  /** the whole shoot wears a look, or none */
  wear: (look: Frame['look']) => Promise<void>;
} {
  const [takeOut] = useTakeOutFramesMutation(),
    [dipAgain] = useDipAgainMutation(),
    [dressFrames] = useDressFramesMutation(),
    [applyLook] = useApplyLookMutation();
  const attempt = async (work: Promise<unknown>, words?: string): Promise<void> => {
    try {
      await work;
      if (words) tell(words);
    } catch (e) {
      complain(messageOf(e));
    }
  };
  const clothe = (look: Frame['look']): Promise<unknown> =>
    applyLook({ shootId: shoot.id, lookId: look?.id ?? null, revision: look?.revision ?? null }).unwrap();
  const wearOwn = (ids: number[], look: Frame['look']): Promise<unknown> =>
    dressFrames({ ids, lookId: look?.id ?? null, revision: look?.revision ?? null }).unwrap();
  return {
    attempt,
    wear: (look) =>
      attempt(
        (async () => {
          const was = shoot.look && { id: shoot.look.id, revision: shoot.look.revision };
          await clothe(look);
          tell(look ? `${shoot.name} wears another look` : `${shoot.name} wears no look`, () => attempt(clothe(was)));
        })(),
      ),
    take: (frames) =>
      attempt(
        (async () => {
          const gone = frames.map((f) => f.id),
            own = frames.some((f) => f.own);
          await takeOut(gone).unwrap();
          clear();
          tell(
            `${named(frames)} taken out; ${own ? 'Dyepot’s copies of uploads are kept in the trash for 30 days' : 'the raw files stay where they are'}`,
            undoTakingOut('frame', gone),
          );
        })(),
      ),
    dip: (frames) =>
      attempt(
        (async () => {
          const { ids } = await dipAgain(frames.map((f) => f.id)).unwrap();
          tell(`${named(frames)} dipped again`, () => attempt(takeOut(ids).unwrap()));
        })(),
      ),
    dress: (frames, look) =>
      attempt(
        (async () => {
          await wearOwn(
            frames.map((f) => f.id),
            look,
          );
          const its = frames.length === 1 ? 'its' : 'their';
          tell(look ? `${named(frames)}: a look of ${its} own` : `${named(frames)}: the shoot’s look again`, () =>
            attempt(
              Promise.all(
                byLook(frames).map((kin) =>
                  wearOwn(
                    kin.map((f) => f.id),
                    kin[0]!.look,
                  ),
                ),
              ),
            ),
          );
        })(),
      ),
  };
}
