import { Button } from '@chakra-ui/react';
import { useEffect, useRef, useState } from 'react';
import { messageOf } from '../api.ts';
import { complain, tell } from '../kit/notices.tsx';
import { Picture } from '../kit/Picture.tsx';
import { timeLeft } from '../kit/timeLeft.ts';
import { Sheet } from '../kit/Sheet.tsx';
import { sheetPictureUrl } from '../pictures.ts';
import type { Frame, Shoot } from '../types.ts';
import { useBracketsQuery, useMergeMutation, type Merged } from './mergeApi.ts';

const letIn = ({ exif: { shutterSeconds: t, iso, aperture: f } }: Frame): number | null =>
  t > 0 && iso > 0 && f > 0 ? Math.log2((t * iso) / 100 / f ** 2) : null;
/** Exposures from the middle one's, as photographers say them. */
function said(frames: readonly Frame[]): string[] {
  const evs = frames.map(letIn),
    known = evs.filter((v): v is number => v !== null).sort((a, b) => a - b),
    middle = known[(known.length - 1) >> 1] ?? 0;
  return evs.map((v) =>
    v === null
      ? 'exposure unknown'
      : Math.abs(v - middle) < 0.05
        ? 'middle'
        : `${v < middle ? '−' : '+'}${Math.abs(v - middle).toFixed(1)} EV`,
  );
}
const told = (m: Merged): string => {
  const far = Math.max(...m.moved),
    left = Math.max(...m.left);
  return `${m.name} is merged${far > 0 ? `; laid on each other by up to ${far.toFixed(far < 10 ? 1 : 0)} px` : ''}${left > 0.0005 ? `; what moved is taken from one exposure (up to ${(100 * left).toFixed(1)} % of the picture)` : ''}`;
};

/** Where it is kept how long a megapixel of one exposure took the last time, in seconds, and what is taken before that is known. */
const paceKey = 'dyepot-merging-pace',
  usualPace = 0.3;
const megapixels = (frames: readonly Frame[], ids: readonly number[]): number =>
  frames.reduce((sum, f) => (ids.includes(f.id) ? sum + (f.width * f.height) / 1e6 : sum), 0);
/** Seconds until so many megapixels, begun at a time, are merged; it goes down by itself. */
function useSecondsLeft(of: number, began: number | null): number | null {
  const [now, setNow] = useState(0);
  useEffect(() => {
    if (began === null) return;
    setNow(Date.now());
    const timer = setInterval(() => setNow(Date.now()), 1000);
    return () => clearInterval(timer);
  }, [began]);
  if (began === null) return null;
  return Math.max(1, Math.round(of * (Number(localStorage.getItem(paceKey)) || usualPace) - Math.max(0, now - began) / 1000));
}

/** Exposures of one view become one picture: those chosen, and what is found in the shoot. */
export function MergeSheet({ shoot, chosen, onClose }: { shoot: Shoot; chosen: readonly Frame[]; onClose: () => void }): React.JSX.Element {
  const { data: found, error, isFetching } = useBracketsQuery(shoot.id),
    [merge] = useMergeMutation(),
    // one frame alone is no bracket
    own = chosen.length > 1 ? chosen.map((f) => f.id) : [],
    others = (found ?? []).filter((ids) => !ids.some((id) => own.includes(id))),
    brackets = [...(own.length > 0 ? [own] : []), ...others],
    [left, setLeft] = useState<ReadonlySet<string>>(new Set()),
    taken = brackets.filter((ids) => !left.has(ids.join())),
    [done, setDone] = useState<number | null>(null),
    hand = useRef<{ abort: () => void } | null>(null),
    stopped = useRef(false);
  useEffect(
    () => () => {
      stopped.current = true;
      hand.current?.abort();
    },
    [],
  );
  const [began, setBegan] = useState<number | null>(null),
    seconds = useSecondsLeft(megapixels(shoot.frames, taken.slice(done ?? 0).flat()), began);
  const begin = async (): Promise<void> => {
    stopped.current = false;
    for (const [i, ids] of taken.entries()) {
      setDone(i);
      const from = Date.now();
      setBegan(from);
      const asked = merge({ id: shoot.id, ids });
      hand.current = asked;
      try {
        tell(told(await asked.unwrap()));
        localStorage.setItem(paceKey, String((Date.now() - from) / 1000 / megapixels(shoot.frames, ids)));
      } catch (e) {
        if (!stopped.current) complain(messageOf(e));
      }
      if (stopped.current) return setDone(null);
    }
    onClose();
  };
  return (
    <Sheet title="Merge exposures" onClose={onClose} wide>
      <p className="purpose">
        The same view at several exposures becomes one picture of linear light, kept as a DNG beside the raws: each exposure counts for as
        much as its noise allows, all are laid on the middle one, and what moved is taken from one of them.
      </p>
      <div className="brackets">
        {brackets.map((ids) => {
          const frames = ids.flatMap((id) => shoot.frames.find((f) => f.id === id) ?? []),
            evs = said(frames),
            key = ids.join();
          return (
            <div key={key} className="bracket">
              <input
                type="checkbox"
                checked={!left.has(key)}
                disabled={done !== null}
                onChange={() => setLeft((was) => new Set(was.has(key) ? [...was].filter((k) => k !== key) : [...was, key]))}
                aria-label={`Merge ${frames.map((f) => f.name).join(', ')}`}
              />
              {frames.map((f, i) => (
                <figure key={f.id}>
                  <Picture alt="" src={sheetPictureUrl(f, null, 360, shoot.rendition)} />
                  <figcaption>
                    {f.name} <small>{evs[i]}</small>
                  </figcaption>
                </figure>
              ))}
            </div>
          );
        })}
      </div>
      <p role="status" className="hint">
        {done !== null
          ? `Merging ${done + 1} of ${taken.length}, ${timeLeft(seconds)}…`
          : isFetching
            ? 'Looking for brackets in the shoot…'
            : error
              ? messageOf(error)
              : brackets.length === 0
                ? 'No brackets are found by time, exposure and what frames show. Choose two frames or more to merge them.'
                : ''}
      </p>
      <div className="sheet-actions">
        <Button
          size="sm"
          variant="ghost"
          onClick={() => {
            stopped.current = true;
            hand.current?.abort();
            if (done === null) onClose();
          }}
        >
          {done === null ? 'Cancel' : 'Stop'}
        </Button>
        <Button size="sm" colorPalette="dye" disabled={taken.length === 0 || done !== null} onClick={() => void begin()}>
          {taken.length > 1 ? `Merge ${taken.length} brackets` : 'Merge'}
        </Button>
      </div>
    </Sheet>
  );
}
