import { useLooksQuery } from '../api.ts';
import { DyeStrip } from '../kit/DyeStrip.tsx';
import { Rove } from '../kit/Rove.tsx';
import { Sheet } from '../kit/Sheet.tsx';
import type { Shoot } from '../types.ts';

/** Chooses the look that a shoot wears. */
export function LookSheet({
  worn,
  onClose,
  onChosen,
}: {
  worn: Shoot['look'];
  onClose: () => void;
  onChosen: (lookId: number | null, revision: number | null) => void;
}): React.JSX.Element {
  const { data: looks } = useLooksQuery();
  return (
    <Sheet title="The shoot’s look" onClose={onClose}>
      <Rove as="ul" className="look-list" ways="both">
        <li>
          <button type="button" aria-pressed={worn === null} onClick={() => onChosen(null, null)}>
            <b>Neutral response</b>
            <span>no look</span>
          </button>
        </li>
        {looks
          ?.filter((l) => !l.broken)
          .map((l) => (
            <li key={l.id}>
              <button type="button" aria-pressed={worn?.id === l.id} onClick={() => onChosen(l.id, l.revision)}>
                <b title={l.name}>{l.name}</b>
                <span>
                  {worn?.id === l.id && worn.revision !== l.revision
                    ? `revision ${l.revision}, worn is ${worn.revision}`
                    : `revision ${l.revision}`}
                </span>
                <DyeStrip strip={l.strip} height={8} />
              </button>
            </li>
          ))}
      </Rove>
    </Sheet>
  );
}
