import { Button } from '@chakra-ui/react';
import { useState } from 'react';
import { messageOf, useTakeOutLookMutation } from '../api.ts';
import { complain, tell } from '../kit/notices.tsx';
import { undoTakingOut } from '../trash/undoTakingOut.ts';
import type { LookCard } from '../types.ts';
import { useEditLooksMutation, type Edit } from './shelfApi.ts';

/** What can be done with the looks that are chosen. */
export function ManyBar({
  looks,
  families,
  onAll,
  onNone,
}: {
  looks: readonly LookCard[];
  families: readonly string[];
  onAll: () => void;
  onNone: () => void;
}): React.JSX.Element {
  const [edit, editing] = useEditLooksMutation(),
    [takeOut] = useTakeOutLookMutation(),
    [family, setFamily] = useState(''),
    [tag, setTag] = useState('');
  const ids = looks.map((l) => l.id),
    many = looks.length === 1 ? looks[0]!.name : `${looks.length} looks`;
  const change = async (wish: Omit<Edit, 'ids'>, words: string): Promise<void> => {
    try {
      await edit({ ids, ...wish }).unwrap();
      tell(`${many}: ${words}`);
    } catch (e) {
      complain(messageOf(e));
    }
  };
  const out = async (): Promise<void> => {
    const gone: number[] = [];
    for (const l of looks) {
      try {
        await takeOut(l.id).unwrap();
        gone.push(l.id);
      } catch (e) {
        complain(messageOf(e));
      }
    }
    if (gone.length > 0) tell(`${gone.length} in the trash, kept for 30 days`, undoTakingOut('look', gone));
    onNone();
  };
  return (
    <div className="many-bar" role="toolbar" aria-label={`What is done with ${many}`}>
      <b>{looks.length} chosen</b>
      <Button size="xs" variant="ghost" onClick={onAll}>
        All shown
      </Button>
      <Button size="xs" variant="ghost" onClick={onNone} title="Escape">
        None
      </Button>
      <form
        onSubmit={(e) => {
          e.preventDefault();
          void change({ family: family.trim() }, family.trim() === '' ? 'no family' : `family ${family.trim()}`);
        }}
      >
        <input
          aria-label="Family of the chosen looks"
          placeholder="Family"
          maxLength={60}
          list="families"
          value={family}
          onChange={(e) => setFamily(e.target.value)}
        />
        <datalist id="families">
          {families.map((f) => (
            <option key={f} value={f} />
          ))}
        </datalist>
        <Button size="xs" variant="outline" type="submit" loading={editing.isLoading}>
          Set
        </Button>
      </form>
      <form
        onSubmit={(e) => {
          e.preventDefault();
          if (tag.trim() !== '') void change({ addTags: [tag.trim()] }, `tag ${tag.trim()}`).then(() => setTag(''));
        }}
      >
        <input
          aria-label="Tag for the chosen looks"
          placeholder="Tag"
          maxLength={40}
          value={tag}
          onChange={(e) => setTag(e.target.value)}
        />
        <Button size="xs" variant="outline" type="submit" disabled={tag.trim() === ''}>
          Add
        </Button>
      </form>
      <Button
        size="xs"
        variant="outline"
        onClick={() =>
          void change({ favourite: !looks.every((l) => l.favourite) }, looks.every((l) => l.favourite) ? 'no favourite' : 'a favourite')
        }
      >
        {looks.every((l) => l.favourite) ? 'No favourite' : 'Favourite'}
      </Button>
      <Button size="xs" variant="outline" asChild>
        <a href={`/api/looks/parcel?ids=${ids.join()}`} title="One .dyelook file with all they need">
          Share as a file
        </a>
      </Button>
      <Button size="xs" variant="ghost" onClick={() => void out()}>
        Take out
      </Button>
    </div>
  );
}
