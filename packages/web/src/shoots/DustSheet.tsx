import { Button } from '@chakra-ui/react';
import { sharedLeast, sharedSpecks, type Speck } from '@dyepot/core';
import { useEffect, useRef, useState } from 'react';
import { messageOf } from '../api.ts';
import { useDustMutation, useMendDustMutation, usePutRepairsMutation, type DustWish } from '../ground/repair/index.ts';
import { complain, tell } from '../kit/notices.tsx';
import { Sheet } from '../kit/Sheet.tsx';
import { timeLeft } from '../kit/timeLeft.ts';
import { pictureUrl } from '../pictures.ts';
import type { Frame, Shoot } from '../types.ts';

/** Dust that several frames show at one place of the sensor: each speck is taken or refused, and healed in the frames that show it. */
export function DustSheet({ shoot, frames, onClose }: { shoot: Shoot; frames: readonly Frame[]; onClose: () => void }): React.JSX.Element {
  const [ask] = useDustMutation(),
    [mend] = useMendDustMutation(),
    [put] = usePutRepairsMutation(),
    [specks, setSpecks] = useState<readonly DustWish[] | null>(null),
    [says, setSays] = useState(''),
    [mending, setMending] = useState(false),
    [refused, setRefused] = useState<ReadonlySet<number>>(new Set()),
    gone = useRef(false);
  /** One frame after the other, with time left, until the sheet is closed. */
  const each = async <T,>(of: readonly T[], words: string, run: (one: T) => Promise<void>): Promise<boolean> => {
    const since = performance.now();
    for (const [i, one] of of.entries()) {
      const left = i > 1 ? ` · ${timeLeft(Math.round(((performance.now() - since) / 1000 / i) * (of.length - i)))}` : '';
      setSays(`${words} ${i + 1} of ${of.length}${left}`);
      await run(one);
      if (gone.current) return false;
    }
    return true;
  };
  const look = async (): Promise<void> => {
    const found = new Map<number, Speck[]>(),
      cameras = new Map<string, Frame[]>();
    for (const f of frames) {
      const camera = `${f.camera} ${f.width} ${f.height}`;
      cameras.set(camera, [...(cameras.get(camera) ?? []), f]);
    }
    await each(frames, 'Looking at frame', async (f) => {
      found.set(f.id, (await ask({ id: f.id, least: sharedLeast }).unwrap()).specks);
    });
    setSpecks(
      [...cameras.values()].flatMap((own) =>
        sharedSpecks(
          own.map((f) => found.get(f.id) ?? []),
          own[0]!,
        ).map((s) => ({ x: s.x, y: s.y, radius: s.radius, frames: s.frames.map((i) => own[i]!.id) })),
      ),
    );
    setSays('');
  };
  useEffect(() => {
    gone.current = false;
    look().catch((e: unknown) => setSays(messageOf(e)));
    return () => {
      gone.current = true;
    };
  }, []);
  const all = specks ?? [],
    taken = all.filter((_, i) => !refused.has(i)),
    touched = [...new Set(taken.flatMap((s) => s.frames))],
    nameOf = (id: number): string => frames.find((f) => f.id === id)?.name ?? '',
    clean = frames.filter((f) => !all.some((s) => s.frames.includes(f.id)));
  const take = async (): Promise<void> => {
    const was: Parameters<typeof put>[0] = [],
      tellDone = (): void =>
        tell(
          was.length === 0 ? 'All of it was healed already' : `Dust healed in ${was.length} ${was.length === 1 ? 'frame' : 'frames'}`,
          () =>
            put(was)
              .unwrap()
              .then(() => {})
              .catch((e: unknown) => complain(messageOf(e))),
        );
    setMending(true);
    try {
      await each(touched, 'Healing frame', async (id) => {
        was.push(...(await mend(taken.filter((s) => s.frames.includes(id)).map((s) => ({ ...s, frames: [id] }))).unwrap()).was);
      });
      tellDone();
      onClose();
    } catch (e) {
      if (was.length > 0) tellDone();
      complain(messageOf(e));
      setMending(false);
    }
  };
  return (
    <Sheet title="Dust on the sensor" onClose={onClose} wide>
      <p className="hint" role="status">
        {says ||
          (all.length === 0
            ? 'No speck shows at one place of the sensor in several of these frames.'
            : `${all.length} ${all.length === 1 ? 'speck shows' : 'specks show'} at one place of the sensor, whatever the crop. Each is healed only where it can be seen${clean.length > 0 ? `; ${clean.length === 1 ? `${clean[0]!.name} shows` : `${clean.length} frames show`} none and ${clean.length === 1 ? 'is' : 'are'} left alone` : ''}.`)}
      </p>
      {all.length > 0 && (
        <div className="dust-table">
          <div
            className="dust-map"
            style={{
              backgroundImage: `url(${pictureUrl(frames[0]!, null, 720, shoot.rendition)})`,
              aspectRatio: `${frames[0]!.width} / ${frames[0]!.height}`,
            }}
          >
            {all.map((s, i) => (
              <i
                key={i}
                className={refused.has(i) ? 'refused' : ''}
                style={{ left: `${s.x * 100}%`, top: `${s.y * 100}%`, width: `${Math.max(2.5, s.radius * 300)}%` }}
              />
            ))}
          </div>
          <ul className="dust-list">
            {all.map((s, i) => (
              <li key={i}>
                <label className="inline">
                  <input
                    type="checkbox"
                    checked={!refused.has(i)}
                    onChange={() => {
                      const next = new Set(refused);
                      if (!next.delete(i)) next.add(i);
                      setRefused(next);
                    }}
                  />
                  {Math.round(s.x * 100)} %, {Math.round(s.y * 100)} %{' '}
                  <small title={s.frames.map(nameOf).join(', ')}>
                    in {s.frames.length} of {frames.length}
                  </small>
                </label>
              </li>
            ))}
          </ul>
        </div>
      )}
      <div className="sheet-actions">
        <Button size="sm" variant="ghost" onClick={onClose}>
          {says ? 'Stop' : 'Cancel'}
        </Button>
        <Button size="sm" colorPalette="dye" disabled={taken.length === 0} loading={mending} onClick={() => void take()}>
          Heal {taken.length} {taken.length === 1 ? 'speck' : 'specks'} in {touched.length} {touched.length === 1 ? 'frame' : 'frames'}
        </Button>
      </div>
    </Sheet>
  );
}
