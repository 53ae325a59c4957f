import { useCallback } from 'react';
import { useSearchParams } from 'react-router';
import { messageOf, useShootQuery, useShootsQuery } from '../api.ts';
import { QuietPage, WaitingPage } from '../kit/Waiting.tsx';
import { store, useAppSelector } from '../store.ts';
import { Ground } from './Ground.tsx';
import { keepGround } from './keepGround.ts';

// from the first time the Ground is opened on, whichever page is open then
keepGround(store);

const number = (text: string | null): number | null => (text !== null && /^\d+$/.test(text) ? Number(text) : null);

export default function GroundScreen(): React.JSX.Element {
  const [search, setSearch] = useSearchParams(),
    kept = useAppSelector((s) => s.ground.shootId),
    { data: shoots, error } = useShootsQuery();
  const asked = number(search.get('shoot')),
    id = asked ?? (shoots?.some((s) => s.id === kept) ? kept : (shoots?.[0]?.id ?? null)),
    { data: shoot, error: shootError } = useShootQuery(id ?? 0, { skip: id === null });
  // the address follows the frame, so that reload and Back come to it again
  const onOpened = useCallback(
    (frameId: number): void => {
      if (id !== null) setSearch({ shoot: String(id), frame: String(frameId) }, { replace: true });
    },
    [id, setSearch],
  );
  const failed = error ?? shootError;
  if (!shoot && failed)
    return (
      <QuietPage
        page="Ground"
        title="The groundwork cannot be shown"
        words={messageOf(failed)}
        way={{ to: '/shoots', words: 'Go to Shoots' }}
      />
    );
  if (shoots?.length === 0 || shoot?.frames.length === 0)
    return (
      <QuietPage
        page="Ground"
        title="No frames to work on"
        words="Groundwork is done on the frames of a shoot. Bring in raw files first."
        way={{ to: shoot ? `/shoots/${shoot.id}?bring` : '/shoots', words: shoot ? 'Bring raws in' : 'Go to Shoots' }}
      />
    );
  if (!shoot) return <WaitingPage page="Ground" words="Laying out the frames…" />;
  return <Ground key={shoot.id} shoot={shoot} asked={number(search.get('frame'))} onOpened={onOpened} />;
}
