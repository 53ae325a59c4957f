import { Button } from '@chakra-ui/react';
import { giveSteps, stepName } from '@dyepot/core';
import { useMemo, useState } from 'react';
import { messageOf, useLookQuery, useSaveRevisionMutation } from '../api.ts';
import { CheckGrid } from '../kit/CheckGrid.tsx';
import { complain, tell } from '../kit/notices.tsx';
import { Sheet } from '../kit/Sheet.tsx';
import type { LookCard } from '../types.ts';
import { TriedPicture } from '../kit/TriedPicture.tsx';

/** Gives steps of a look to another, seen on a frame before they are; what is made is the other's next revision. */
export default function GiveStepSheet({
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
    [toId, setToId] = useState(others[0]?.id ?? 0),
    [chosen, setChosen] = useState<ReadonlySet<string>>(new Set()),
    [save, saving] = useSaveRevisionMutation();
  const { data: from } = useLookQuery({ id: look.id }),
    { data: to } = useLookQuery({ id: toId }, { skip: toId === 0 }),
    steps = from ? [...from.document.scene, ...from.document.print] : [],
    made = useMemo(() => (from && to ? giveSteps(from.document, to.document, [...chosen]) : null), [from, to, chosen]);
  const give = async (): Promise<void> => {
    if (!made || !to) return;
    try {
      const saved = await save({ id: toId, look: made, from: to.revision }).unwrap();
      tell(`${saved.name} has ${chosen.size === 1 ? 'the step' : `${chosen.size} steps`} now, as revision ${saved.revision}`);
      onClose();
    } catch (e) {
      complain(messageOf(e));
    }
  };
  if (others.length === 0 || (from && steps.length === 0))
    return (
      <Sheet title={`Steps of ${look.name}`} onClose={onClose}>
        <p>{others.length === 0 ? 'There is no other look on the shelf to give them to.' : 'It has no steps but its stock.'}</p>
      </Sheet>
    );
  return (
    <Sheet title={`Give steps of ${look.name}`} onClose={onClose} wide>
      <div className="blend">
        {frame !== null &&
          (made ? (
            <TriedPicture frame={frame} look={made} alt={`${to?.name ?? 'The other look'} with what is given to it`} />
          ) : (
            <div className="picture waiting" />
          ))}
        <CheckGrid of={steps.map((s) => ({ value: s.id, words: stepName(s) }))} chosen={chosen} onChosen={setChosen} />
        <label className="inline">
          to{' '}
          <select aria-label="Given to" value={toId} onChange={(e) => setToId(Number(e.target.value))}>
            {others.map((o) => (
              <option key={o.id} value={o.id}>
                {o.name}
              </option>
            ))}
          </select>
        </label>
        <p className="hint">They come last in their lanes, in the skeins and under the named places they have here.</p>
        <div className="sheet-actions">
          <Button size="sm" variant="ghost" onClick={onClose}>
            Cancel
          </Button>
          <Button size="sm" colorPalette="dye" disabled={!made || chosen.size === 0} loading={saving.isLoading} onClick={() => void give()}>
            Save as its next revision
          </Button>
        </div>
      </div>
    </Sheet>
  );
}
