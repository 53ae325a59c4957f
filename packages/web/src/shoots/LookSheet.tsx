import { useLooksQuery } from '../api.ts';
import { DyeStrip } from '../kit/DyeStrip.tsx';
import { Rove } from '../kit/Rove.tsx';
import { Sheet } from '../kit/Sheet.tsx';

/** Chooses a look: for a shoot, or for frames of their own. */
export function LookSheet({
  title,
  none,
  worn,
  onClose,
  onChosen,
}: {
  title: string;
  /** what it is to choose no look */
  none: { name: string; words: string };
  worn: { id: number; revision: number } | null;
  onClose: () => void;
  onChosen: (lookId: number | null, revision: number | null) => void;
}): React.JSX.Element {
  const { data: looks } = useLooksQuery();
  return (
    <Sheet title={title} onClose={onClose}>
      <Rove as="ul" className="look-list" ways="both">
        <li>
          <button type="button" aria-pressed={worn === null} onClick={() => onChosen(null, null)}>
            <b>{none.name}</b>
            <span>{none.words}</span>
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
