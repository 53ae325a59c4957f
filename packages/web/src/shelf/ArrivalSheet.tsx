import { Button } from '@chakra-ui/react';
import { useState } from 'react';
import { messageOf } from '../api.ts';
import { DyeStrip } from '../kit/DyeStrip.tsx';
import { complain, tell } from '../kit/notices.tsx';
import { Sheet } from '../kit/Sheet.tsx';
import { useTakeParcelMutation, type Arrival, type Standing } from './shelfApi.ts';
import { TriedPicture } from '../kit/TriedPicture.tsx';

type How = 'leave' | 'own' | 'revision';
const first: Record<Standing['kind'], How> = { new: 'own', newer: 'revision', same: 'leave', older: 'leave' };
function standingSaid(s: Standing): string {
  if (s.kind === 'new') return 'Not on this shelf.';
  if (s.kind === 'same') return `The shelf has it already, as ${s.name}.`;
  if (s.kind === 'older')
    return s.revision > 0
      ? `${s.name} said this at revision ${s.revision} and has gone on since.`
      : `${s.name} was made from this and has gone on since.`;
  return `It goes on from what ${s.name} says now.`;
}

/** What a file of looks holds, seen on one's own frame before any of it is on the shelf. */
export function ArrivalSheet({
  file,
  looks,
  frame,
  onClose,
}: {
  file: File;
  looks: readonly Arrival[];
  frame: number | null;
  onClose: () => void;
}): React.JSX.Element {
  const [how, setHow] = useState<readonly How[]>(() => looks.map((l) => first[l.standing.kind])),
    [take, taking] = useTakeParcelMutation();
  const chosen = (of: How): number[] => how.flatMap((h, i) => (h === of ? [i] : [])),
    count = how.filter((h) => h !== 'leave').length;
  const takeIn = async (): Promise<void> => {
    try {
      const taken = await take({ file, own: chosen('own'), revision: chosen('revision') }).unwrap();
      tell(taken.looks.length === 1 ? `${taken.looks[0]!.name} is on the shelf` : `${taken.looks.length} looks are on the shelf`);
      onClose();
    } catch (e) {
      complain(`${file.name}: ${messageOf(e)}`);
    }
  };
  return (
    <Sheet title={`${file.name}: ${looks.length} ${looks.length === 1 ? 'look' : 'looks'}`} onClose={onClose} wide>
      <ul className="arrivals">
        {looks.map(({ look, strip, standing }, i) => (
          <li key={i}>
            {frame !== null && i < 60 && <TriedPicture frame={frame} look={look} edge={360} alt={`${look.name} on your frame`} />}
            <div>
              <b>{look.name}</b> {look.family && <small>{look.family}</small>}
              <DyeStrip strip={strip} />
              <p>{look.notes}</p>
              <p className="hint">{standingSaid(standing)}</p>
            </div>
            <select
              aria-label={`What is done with ${look.name}`}
              value={how[i]}
              onChange={(e) => setHow(how.map((h, j) => (j === i ? (e.target.value as How) : h)))}
            >
              <option value="leave">Leave out</option>
              <option value="own">Put on the shelf{standing.kind === 'new' ? '' : ' as a look of its own'}</option>
              {standing.kind === 'newer' && <option value="revision">Next revision of {standing.name}</option>}
            </select>
          </li>
        ))}
      </ul>
      <div className="sheet-actions">
        <Button size="sm" variant="ghost" onClick={onClose}>
          Cancel
        </Button>
        <Button size="sm" colorPalette="dye" disabled={count === 0} loading={taking.isLoading} onClick={() => void takeIn()}>
          {count === 0 ? 'Nothing is taken in' : `Take in ${count}`}
        </Button>
      </div>
    </Sheet>
  );
}
