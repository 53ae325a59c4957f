import { Button, Input } from '@chakra-ui/react';
import { useEffect, useState } from 'react';
import { messageOf } from '../api.ts';
import { useLazyProposedLightsQuery, type Said } from '../evenness/evennessApi.ts';
import { Sheet } from '../kit/Sheet.tsx';
import type { Shoot } from '../types.ts';

/** Groups of light as they are proposed, to be named and taken. */
export function GroupSheet({
  shoot,
  onClose,
  onTake,
}: {
  shoot: Shoot;
  onClose: () => void;
  onTake: (said: Said[], groups: number) => void;
}): React.JSX.Element {
  const [ask, { data, error }] = useLazyProposedLightsQuery(),
    [names, setNames] = useState<Readonly<Record<number, string>>>({});
  useEffect(() => void ask(shoot.id), [ask, shoot.id]);
  const nameOf = (i: number): string => names[i] ?? data?.[i]?.light ?? '',
    said = (data ?? []).flatMap(({ ids }, i) =>
      ids.flatMap((id) => (shoot.frames.find((f) => f.id === id)?.light === nameOf(i).trim() ? [] : [{ id, light: nameOf(i).trim() }])),
    );
  const listed = (ids: readonly number[]): string => {
    const own = ids.flatMap((id) => shoot.frames.find((f) => f.id === id)?.name ?? []);
    return own.length > 6 ? `${own.slice(0, 5).join(', ')} and ${own.length - 5} more` : own.join(', ');
  };
  return (
    <Sheet title="Groups of light, as proposed" onClose={onClose}>
      <form
        onSubmit={(e) => {
          e.preventDefault();
          onTake(said, data?.length ?? 0);
        }}
      >
        {error ? <p>{messageOf(error)}</p> : !data ? <p role="status">Looking at time, balance, brightness and colour…</p> : null}
        <ul className="group-list">
          {data?.map(({ ids }, i) => (
            <li key={ids[0]}>
              <Input
                size="sm"
                aria-label={`Name of group ${i + 1}`}
                maxLength={60}
                value={nameOf(i)}
                onChange={(e) => setNames({ ...names, [i]: e.target.value })}
              />
              <span title={listed(ids)}>
                {ids.length} {ids.length === 1 ? 'frame' : 'frames'}: {listed(ids)}
              </span>
            </li>
          ))}
        </ul>
        {data && said.length === 0 && <p>The frames are grouped so already.</p>}
        <div className="sheet-actions">
          <Button size="sm" type="submit" colorPalette="dye" disabled={said.length === 0 || said.some((s) => s.light === '')}>
            {said.length === 0 ? 'Nothing to change' : `Move ${said.length} ${said.length === 1 ? 'frame' : 'frames'}`}
          </Button>
        </div>
      </form>
    </Sheet>
  );
}
