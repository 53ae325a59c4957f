import { useSearchParams } from 'react-router';
import { messageOf, useShootQuery, useShootsQuery } from '../api.ts';
import { QuietPage, WaitingPage } from '../kit/Waiting.tsx';
import { useAppSelector } from '../store.ts';
import { Ground } from './Ground.tsx';

export default function GroundScreen(): React.JSX.Element {
  const [search] = useSearchParams(),
    kept = useAppSelector((s) => s.ground.shootId),
    { data: shoots, error } = useShootsQuery();
  const asked = search.get('shoot'),
    id = asked ? Number(asked) : shoots?.some((s) => s.id === kept) ? kept : (shoots?.[0]?.id ?? null),
    { data: shoot } = useShootQuery(id ?? 0, { skip: id === null });
  if (error) return <QuietPage title="The groundwork cannot be shown" words={messageOf(error)} />;
  if (shoots?.length === 0 || shoot?.frames.length === 0)
    return (
      <QuietPage
        title="No frames to work on"
        words="Groundwork is done on the frames of a shoot. Bring in raw files first."
        way={{ to: '/shoots', words: 'Go to Shoots' }}
      />
    );
  if (!shoot) return <WaitingPage words="Laying out the frames…" />;
  return <Ground shoot={shoot} asked={search.get('frame') ? Number(search.get('frame')) : null} />;
}
