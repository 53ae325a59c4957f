import { useRef } from 'react';
import { messageOf } from '../api.ts';
import { useSayOfFramesMutation, type Said } from '../evenness/evennessApi.ts';
import { complain, tell } from '../kit/notices.tsx';
import { useShortcut } from '../kit/useShortcut.ts';

/**
 * Says something of frames. Control Z takes back the last, and what was said before it; of many at once a notice tells too.
 * `other` is what else the screen can take back: whichever was done last goes first.
 */
export function useSaying(other?: { lastAt: number; undo: () => void }): (said: Said[], words: string) => void {
  const [say] = useSayOfFramesMutation(),
    before = useRef<{ was: Said[]; at: number }[]>([]);
  const send = async (said: Said[], kept: boolean): Promise<Said[] | null> => {
    try {
      const { was } = await say(said).unwrap();
      if (kept) before.current = [...before.current, { was, at: performance.now() }].slice(-200);
      return was;
    } catch (e) {
      complain(messageOf(e));
      return null;
    }
  };
  const back = (): void => {
    const last = before.current.at(-1);
    if (other && other.lastAt > (last?.at ?? 0)) {
      other.undo();
      return;
    }
    before.current.pop();
    if (last) void send(last.was, false);
  };
  useShortcut('mod+z', back, { preventDefault: true });
  return (said, words) => {
    if (said.length === 0) return;
    void send(said, true).then((was) => {
      if (!was || said.length === 1) return;
      tell(words, () => {
        before.current = before.current.filter((b) => b.was !== was);
        void send(was, false);
      });
    });
  };
}
