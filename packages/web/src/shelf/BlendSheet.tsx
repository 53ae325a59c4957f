import { Button } from '@chakra-ui/react';
import { blendLooks } from '@dyepot/core';
import { useMemo, useState } from 'react';
import { messageOf, useCreateLookMutation, useLookQuery } from '../api.ts';
import { complain, tell } from '../kit/notices.tsx';
import { Sheet } from '../kit/Sheet.tsx';
import type { LookCard } from '../types.ts';
import { TriedPicture } from '../kit/TriedPicture.tsx';

/** A look between two, seen on a frame while one slider moves. */
export function BlendSheet({
  look,
  looks,
  frame,
  onClose,
}: {
  look: LookCard;
  looks: readonly LookCard[];
  frame: number | null;
  onClose: () => void;
}): React.JSX.Element {
  const others = useMemo(() => looks.filter((l) => l.id !== look.id && !l.broken), [looks, look.id]),
    [otherId, setOtherId] = useState(others[0]?.id ?? 0),
    [share, setShare] = useState(50),
    [name, setName] = useState<string | null>(null),
    [create, creating] = useCreateLookMutation();
  const { data: a } = useLookQuery({ id: look.id }),
    { data: b } = useLookQuery({ id: otherId }, { skip: otherId === 0 }),
    blend = useMemo(() => (a && b ? blendLooks(a.document, b.document, share / 100) : null), [a, b, share]);
  const keep = async (): Promise<void> => {
    if (!blend) return;
    try {
      const made = await create({ ...blend.look, name: (name ?? blend.look.name).trim() || blend.look.name }).unwrap();
      tell(`${made.name} is on the shelf`);
      onClose();
    } catch (e) {
      complain(messageOf(e));
    }
  };
  if (others.length === 0)
    return (
      <Sheet title={`Blend ${look.name}`} onClose={onClose}>
        <p>There is no other look on the shelf to blend it with.</p>
      </Sheet>
    );
  return (
    <Sheet title={`Blend ${look.name}`} onClose={onClose} wide>
      <div className="blend">
        {frame !== null && blend && <TriedPicture frame={frame} look={blend.look} alt={`${share} % of the way to the other look`} />}
        <div className="blend-share">
          <span>{look.name}</span>
          <input
            type="range"
            min="0"
            max="100"
            step="1"
            value={share}
            aria-label={`Share of ${others.find((o) => o.id === otherId)?.name ?? 'the other'}`}
            aria-valuetext={`${share} %`}
            onChange={(e) => setShare(Number(e.target.value))}
          />
          <output>{share} %</output>
          <select aria-label="Blended with" value={otherId} onChange={(e) => setOtherId(Number(e.target.value))}>
            {others.map((o) => (
              <option key={o.id} value={o.id}>
                {o.name}
              </option>
            ))}
          </select>
        </div>
        <p className="hint">
          What both have is met half way, number by number; a step only one has fades by its strength.{' '}
          {blend?.said.map((s) => `${s[0]!.toUpperCase()}${s.slice(1)}. `)}
        </p>
        <div className="sheet-actions">
          <input
            aria-label="Name of the blend"
            maxLength={80}
            value={name ?? blend?.look.name ?? ''}
            onChange={(e) => setName(e.target.value)}
          />
          <Button size="sm" variant="ghost" onClick={onClose}>
            Cancel
          </Button>
          <Button size="sm" colorPalette="dye" disabled={!blend} loading={creating.isLoading} onClick={() => void keep()}>
            Put on the shelf
          </Button>
        </div>
      </div>
    </Sheet>
  );
}
