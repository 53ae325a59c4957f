import { useLooksQuery } from '../api.ts';
import { DyeStrip } from '../kit/DyeStrip.tsx';
import { Sheet } from '../kit/Sheet.tsx';

/** Chooses the look that a shoot wears. */
export function LookSheet({
  worn,
  onClose,
  onChosen,
}: {
  worn: number | null;
  onClose: () => void;
  onChosen: (lookId: number | null, revision: number | null) => void;
}): React.JSX.Element {
  const { data: looks } = useLooksQuery();
  return (
    <Sheet title="The shoot’s look" onClose={onClose}>
      <ul className="look-list">
        <li>
          <button type="button" onClick={() => onChosen(null, null)}>
            <b>Neutral response</b>
            <span>no look</span>
          </button>
        </li>
        {looks?.map((l) => (
          <li key={l.id}>
            <button type="button" aria-pressed={worn === l.id} onClick={() => onChosen(l.id, l.revision)}>
              <b>{l.name}</b>
              <span>revision {l.revision}</span>
              <DyeStrip strip={l.strip} height={8} />
            </button>
          </li>
        ))}
      </ul>
    </Sheet>
  );
}
