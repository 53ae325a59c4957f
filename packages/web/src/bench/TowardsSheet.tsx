import { Button } from '@chakra-ui/react';
import { stepKind, withProposed, type Look } from '@dyepot/core';
import { useEffect, useMemo, useRef, useState } from 'react';
import { messageOf, useTakePictureMutation } from '../api.ts';
import { complain } from '../kit/notices.tsx';
import { Sheet } from '../kit/Sheet.tsx';
import { TriedPicture } from '../kit/TriedPicture.tsx';
import { useAppDispatch } from '../store.ts';
import type { Towards } from '../types.ts';
import { act } from './benchSlice.ts';
import { useAsShownQuery, useTowardsPictureMutation } from './towardsApi.ts';
import { letGo } from '../kit/letGo.ts';

/** What the lead is to come near to: a file, or the JPEG its camera made beside the raw. */
type Goal = File | 'as shown';
/** Its address for the page. */
function usePictureOf(goal: Goal | null, frameId: number): string | null {
  const [url, setUrl] = useState<string | null>(null);
  useEffect(() => {
    if (!(goal instanceof File)) return setUrl(goal && `/api/frames/${frameId}/as-shown.jpg`);
    const made = URL.createObjectURL(goal);
    setUrl(made);
    return () => letGo(made);
  }, [goal, frameId]);
  return url;
}
/** Steps that bring the lead near a finished picture: a client's reference, an earlier delivery. */
export function TowardsSheet({ frameId, look, onClose }: { frameId: number; look: Look; onClose: () => void }): React.JSX.Element {
  const dispatch = useAppDispatch(),
    [goal, setGoal] = useState<Goal | null>(null),
    picture = usePictureOf(goal, frameId),
    { data: shown } = useAsShownQuery(frameId),
    [found, setFound] = useState<Towards | null>(null),
    [left, setLeft] = useState<readonly string[]>([]),
    [take] = useTakePictureMutation(),
    [towards] = useTowardsPictureMutation(),
    [busy, setBusy] = useState(false),
    newest = useRef<Goal | null>(null);
  const choose = async (chosen: Goal | undefined): Promise<void> => {
    if (!chosen) return;
    newest.current = chosen;
    // what was asked of a picture chosen before is of no use any more
    const current = (): boolean => newest.current === chosen;
    setGoal(chosen);
    setFound(null);
    setLeft([]);
    setBusy(true);
    try {
      const picture = chosen === 'as shown' ? null : (await take(chosen).unwrap()).id,
        answer = await towards({ frameId, look, picture }).unwrap();
      if (current()) setFound(answer);
    } catch (e) {
      if (current()) setGoal(null);
      complain(messageOf(e));
    } finally {
      if (current()) setBusy(false);
    }
  };
  const steps = useMemo(() => found?.steps.filter((s) => !left.includes(s.kind)) ?? [], [found, left]),
    near = useMemo(() => withProposed(look, steps), [look, steps]);
  const beside: readonly (readonly [string, React.ReactNode])[] = [
    ['The lead now', <TriedPicture key="now" frame={frameId} look={look} alt="The lead as it is" />],
    ['The picture', picture && <img key="picture" src={picture} alt="The picture to come near to" />],
    ['With the steps', found && <TriedPicture key="near" frame={frameId} look={near} alt="The lead with the steps proposed" />],
  ];
  return (
    <Sheet title="Towards a finished picture" onClose={onClose} wide>
      <p className="purpose">
        A client’s reference or an earlier delivery (JPEG, PNG, TIFF, WebP). Steps are proposed that bring the lead’s tones and colours near
        it: a tone curve, saturation, a grade, to be changed like any.
      </p>
      <label className="field">
        The picture{' '}
        <input type="file" accept="image/jpeg,image/png,image/tiff,image/webp" onChange={(e) => void choose(e.target.files?.[0])} />
      </label>
      {shown?.name && (
        <Button size="xs" variant="outline" title={shown.name} onClick={() => void choose('as shown')}>
          As the camera showed it
        </Button>
      )}
      <div className="towards">
        {beside.map(([words, what]) => (
          <figure key={words}>
            <div>{what}</div>
            <figcaption>{words}</figcaption>
          </figure>
        ))}
      </div>
      <p role="status" className="hint">
        {busy && 'Comparing…'}
        {found &&
          (found.steps.length === 0
            ? 'The lead has these tones and colours already.'
            : `Their tones and colours lie ${found.before.toFixed(1)} apart; with all the steps ${found.after.toFixed(1)}. Nought is the same.`)}
      </p>
      {found && found.steps.length > 0 && (
        <div className="towards-steps" role="group" aria-label="Steps to be added">
          {found.steps.map((s) => (
            <label key={s.kind}>
              <input
                type="checkbox"
                checked={!left.includes(s.kind)}
                onChange={() => setLeft(left.includes(s.kind) ? left.filter((k) => k !== s.kind) : [...left, s.kind])}
              />{' '}
              {stepKind(s.kind)!.name}
              {s.kind === 'saturation' && ` ${(s.params['change'] as number) > 0 ? '+' : '−'}${Math.abs(s.params['change'] as number)} %`}
            </label>
          ))}
        </div>
      )}
      <div className="sheet-actions">
        <Button size="sm" variant="ghost" onClick={onClose}>
          Cancel
        </Button>
        <Button
          size="sm"
          colorPalette="dye"
          disabled={steps.length === 0}
          onClick={() => {
            dispatch(act.stepsAdded('Towards a picture', steps));
            onClose();
          }}
        >
          Add {steps.length === 1 ? 'the step' : 'the steps'}
        </Button>
      </div>
    </Sheet>
  );
}
