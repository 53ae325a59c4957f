import { Button } from '@chakra-ui/react';
import { useState } from 'react';
import { Sheet } from './Sheet.tsx';

/** Asks for some of many, in the order they are chosen. */
export function ChooseSheet({
  title,
  most,
  of,
  chosen,
  act = 'Lay',
  onClose,
  onChosen,
}: {
  title: string;
  most: number;
  of: readonly { id: number; words: string; more: string }[];
  chosen: readonly number[];
  /** what is done with them, before their number */
  act?: string;
  onClose: () => void;
  onChosen: (ids: number[]) => void;
}): React.JSX.Element {
  const [ids, setIds] = useState<number[]>(chosen.filter((id) => of.some((o) => o.id === id))),
    [words, setWords] = useState('');
  const shown = of.filter((o) => `${o.words} ${o.more}`.toLowerCase().includes(words.trim().toLowerCase())),
    full = ids.length >= most;
  return (
    <Sheet title={title} onClose={onClose} wide>
      <form
        onSubmit={(e) => {
          e.preventDefault();
          onChosen(ids);
        }}
      >
        <input
          className="choose-words"
          aria-label="Words to find by"
          placeholder="words"
          value={words}
          maxLength={80}
          onChange={(e) => setWords(e.target.value)}
        />
        <ul className="choose-list">
          {shown.slice(0, 400).map((o) => (
            <li key={o.id}>
              <label className="inline">
                <input
                  type="checkbox"
                  checked={ids.includes(o.id)}
                  disabled={full && !ids.includes(o.id)}
                  onChange={() => setIds(ids.includes(o.id) ? ids.filter((i) => i !== o.id) : [...ids, o.id])}
                />
                <span title={o.words}>{o.words}</span> <small>{o.more}</small>
              </label>
            </li>
          ))}
        </ul>
        <p className="hint">
          {ids.length} of {most} at most{shown.length > 400 ? `; ${shown.length - 400} more: narrow them down by words` : ''}
        </p>
        <div className="sheet-actions">
          <Button size="sm" type="submit" colorPalette="dye">
            {act} {ids.length}
          </Button>
        </div>
      </form>
    </Sheet>
  );
}
