import { Link } from 'react-router';
import { messageOf } from '../api.ts';
import { DyeStrip } from '../kit/DyeStrip.tsx';
import { Sheet } from '../kit/Sheet.tsx';
import { Waiting } from '../kit/Waiting.tsx';
import type { LookCard } from '../types.ts';
import { useNearLooksQuery } from './shelfApi.ts';

/** The looks on the shelf that do nearly what this one does. */
export function NearSheet({ look, onClose }: { look: LookCard; onClose: () => void }): React.JSX.Element {
  const { data, error } = useNearLooksQuery(look.id);
  const twins = data?.looks.filter((l) => l.same) ?? [];
  return (
    <Sheet title={`Near ${look.name}`} onClose={onClose} wide>
      {error ? (
        <p role="alert">{messageOf(error)}</p>
      ) : !data ? (
        <Waiting words="Comparing what looks make of the same colours…" />
      ) : (
        <>
          <p className="hint">
            {data.looks.length === 0 && 'There is no other look on the shelf. '}
            {twins.length > 0 &&
              `${twins.map((t) => t.name).join(', ')} ${twins.length === 1 ? 'is' : 'are'} the same look under another name. `}
            Mean CIEDE2000 of what both make of 125 colours; what acts in places of its own is left out.
          </p>
          <ul className="near">
            <li>
              <b>{look.name}</b>
              <DyeStrip strip={look.strip} height={22} />
              <span />
            </li>
            {data.looks.map((l) => (
              <li key={l.id}>
                <Link to={`/bench?look=${l.id}`}>{l.name}</Link>
                <DyeStrip strip={l.strip} height={22} />
                <span>{l.same ? 'the same' : `ΔE ${l.distance.toFixed(1)}`}</span>
              </li>
            ))}
          </ul>
        </>
      )}
    </Sheet>
  );
}
