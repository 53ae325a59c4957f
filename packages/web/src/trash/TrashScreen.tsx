import { Button } from '@chakra-ui/react';
import { useState } from 'react';
import { messageOf, usePutBackMutation } from '../api.ts';
import { useEmptyTrashMutation, useLetGoMutation, useTrashQuery } from './trashApi.ts';
import { complain, tell } from '../kit/notices.tsx';
import { Sheet } from '../kit/Sheet.tsx';
import { TopBar } from '../kit/TopBar.tsx';
import { Nothing, Waiting } from '../kit/Waiting.tsx';

const day = 86_400_000;
const daysLeft = (goesAt: string): string => {
  const n = Math.max(0, Math.ceil((new Date(goesAt).getTime() - Date.now()) / day));
  return n === 0 ? 'goes today' : `${n} ${n === 1 ? 'day' : 'days'} left`;
};

/** What was taken out, kept for 30 days: put back, or let go for good. */
export default function TrashScreen(): React.JSX.Element {
  const { data: items, error } = useTrashQuery(),
    [putBack] = usePutBackMutation(),
    [letGo] = useLetGoMutation(),
    [emptyTrash] = useEmptyTrashMutation(),
    [emptying, setEmptying] = useState(false);
  const attempt = (work: Promise<unknown>, words: string): void => {
    work.then(
      () => tell(words),
      (e: unknown) => complain(messageOf(e)),
    );
  };
  return (
    <div className="page">
      <TopBar page="Trash" title="Trash" note="what was taken out is kept for 30 days">
        <Button size="xs" variant="outline" disabled={!items || items.length === 0} onClick={() => setEmptying(true)}>
          Empty the trash…
        </Button>
      </TopBar>
      <main id="main" tabIndex={-1} className="trash">
        {error ? (
          <Nothing title="The trash cannot be shown" words={messageOf(error)} />
        ) : !items ? (
          <Waiting words="Looking into the trash…" />
        ) : items.length === 0 ? (
          <Nothing
            title="The trash is empty"
            words="Shoots, frames, looks, drafts and presets that are taken out wait here for 30 days. Raw files named by folder are never touched."
          />
        ) : (
          <ul>
            {items.map((item) => (
              <li key={`${item.kind}-${item.id}`}>
                <div>
                  <b title={item.name}>{item.name}</b>
                  <span>{item.words}</span>
                </div>
                <small>{daysLeft(item.goesAt)}</small>
                <Button
                  size="xs"
                  variant="outline"
                  aria-label={`Put back ${item.name}`}
                  onClick={() => attempt(putBack(item).unwrap(), `${item.name} is back`)}
                >
                  Put back
                </Button>
                <Button
                  size="xs"
                  variant="ghost"
                  aria-label={`Let go of ${item.name} for good`}
                  onClick={() => attempt(letGo(item).unwrap(), `${item.name} is gone`)}
                >
                  Let go
                </Button>
              </li>
            ))}
          </ul>
        )}
      </main>
      {emptying && items && (
        <Sheet title={`Let go of ${items.length === 1 ? 'this' : `all ${items.length}`} for good?`} onClose={() => setEmptying(false)}>
          <p>This cannot be undone. Raw files named by folder stay where they are; Dyepot’s own copies of uploads go with their frames.</p>
          <div className="sheet-actions">
            <Button size="sm" variant="ghost" onClick={() => setEmptying(false)}>
              Keep them
            </Button>
            <Button
              size="sm"
              colorPalette="dye"
              onClick={() => {
                attempt(emptyTrash().unwrap(), 'The trash is empty');
                setEmptying(false);
              }}
            >
              Empty the trash
            </Button>
          </div>
        </Sheet>
      )}
    </div>
  );
}
