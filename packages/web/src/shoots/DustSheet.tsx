import { Button } from '@chakra-ui/react';
import { useEffect, useState } from 'react';
import { messageOf } from '../api.ts';
import { useDustAcrossMutation, useMendDustMutation, usePutRepairsMutation } from '../ground/repair/index.ts';
import { complain, tell } from '../kit/notices.tsx';
import { Sheet } from '../kit/Sheet.tsx';
import { pictureUrl } from '../pictures.ts';
import type { Frame, Shoot } from '../types.ts';

/** Dust that several frames show at one place of the sensor: each speck is taken or refused, and healed in the frames that show it. */
export function DustSheet({ shoot, frames, onClose }: { shoot: Shoot; frames: readonly Frame[]; onClose: () => void }): React.JSX.Element {
  const [ask, { data, isLoading, error }] = useDustAcrossMutation(),
    [mend, { isLoading: mending }] = useMendDustMutation(),
    [put] = usePutRepairsMutation(),
    [refused, setRefused] = useState<ReadonlySet<number>>(new Set());
  useEffect(() => void ask(frames.map((f) => f.id)), []);
  const specks = data?.specks ?? [],
    taken = specks.filter((_, i) => !refused.has(i)),
    touched = new Set(taken.flatMap((s) => s.frames)),
    nameOf = (id: number): string => frames.find((f) => f.id === id)?.name ?? '',
    clean = frames.filter((f) => !specks.some((s) => s.frames.includes(f.id)));
  const take = async (): Promise<void> => {
    try {
      const { was } = await mend(taken).unwrap();
      tell(
        was.length === 0 ? 'All of it was healed already' : `Dust healed in ${was.length} ${was.length === 1 ? 'frame' : 'frames'}`,
        () =>
          put(was)
            .unwrap()
            .then(() => {})
            .catch((e: unknown) => complain(messageOf(e))),
      );
      onClose();
    } catch (e) {
      complain(messageOf(e));
    }
  };
  return (
    <Sheet title="Dust on the sensor" onClose={onClose} wide>
      <p className="hint" role="status">
        {isLoading || !data
          ? error
            ? messageOf(error)
            : `Looking at ${frames.length} frames…`
          : specks.length === 0
            ? 'No speck shows at one place of the sensor in several of these frames.'
            : `${specks.length} ${specks.length === 1 ? 'speck shows' : 'specks show'} at one place of the sensor, whatever the crop. Each is healed only where it can be seen${clean.length > 0 ? `; ${clean.length === 1 ? `${clean[0]!.name} shows` : `${clean.length} frames show`} none and ${clean.length === 1 ? 'is' : 'are'} left alone` : ''}.`}
      </p>
      {specks.length > 0 && (
        <div className="dust-table">
          <div
            className="dust-map"
            style={{
              backgroundImage: `url(${pictureUrl(frames[0]!, null, 720, shoot.rendition)})`,
              aspectRatio: `${frames[0]!.width} / ${frames[0]!.height}`,
            }}
          >
            {specks.map((s, i) => (
              <i
                key={i}
                className={refused.has(i) ? 'refused' : ''}
                style={{ left: `${s.x * 100}%`, top: `${s.y * 100}%`, width: `${Math.max(2.5, s.radius * 300)}%` }}
              />
            ))}
          </div>
          <ul className="dust-list">
            {specks.map((s, i) => (
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
          Cancel
        </Button>
        <Button size="sm" colorPalette="dye" disabled={taken.length === 0} loading={mending} onClick={() => void take()}>
          Heal {taken.length} {taken.length === 1 ? 'speck' : 'specks'} in {touched.size} {touched.size === 1 ? 'frame' : 'frames'}
        </Button>
      </div>
    </Sheet>
  );
}
