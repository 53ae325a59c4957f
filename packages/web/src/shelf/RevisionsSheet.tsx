import { Button } from '@chakra-ui/react';
import { useState } from 'react';
import { api, messageOf, useSaveRevisionMutation } from '../api.ts';
import { DyeStrip } from '../kit/DyeStrip.tsx';
import { complain, tell } from '../kit/notices.tsx';
import { Picture } from '../kit/Picture.tsx';
import { Sheet } from '../kit/Sheet.tsx';
import { Waiting } from '../kit/Waiting.tsx';
import { pictureUrl } from '../pictures.ts';
import { store } from '../store.ts';
import type { LookCard } from '../types.ts';
import { useLabelRevisionMutation, useRevisionLinesQuery, type RevisionLine } from './shelfApi.ts';
import { askOnce } from '../kit/askOnce.ts';

const when = new Intl.DateTimeFormat('en-GB', { dateStyle: 'medium', timeStyle: 'short' });

/** All revisions of a look: what each changed, in sentences and side by side; named, and brought back. */
export function RevisionsSheet({ look, frame, onClose }: { look: LookCard; frame: number | null; onClose: () => void }): React.JSX.Element {
  const { data, error } = useRevisionLinesQuery(look.id),
    [chosen, setChosen] = useState<number | null>(null),
    [save, saving] = useSaveRevisionMutation();
  const newest = data?.[0],
    at = data?.find((r) => r.revision === chosen) ?? data?.[1] ?? newest;
  const restore = async (r: RevisionLine): Promise<void> => {
    try {
      const old = await askOnce(store.dispatch(api.endpoints.look.initiate({ id: look.id, revision: r.revision }))),
        saved = await save({ id: look.id, look: old.document, from: look.revision }).unwrap();
      tell(`Revision ${saved.revision} of ${saved.name} says what revision ${r.revision} said`);
      setChosen(null);
    } catch (e) {
      complain(messageOf(e));
    }
  };
  return (
    <Sheet title={`Revisions of ${look.name}`} onClose={onClose} wide>
      {error ? (
        <p role="alert">{messageOf(error)}</p>
      ) : !data || !newest || !at ? (
        <Waiting words="Reading the revisions…" />
      ) : (
        <div className="revisions">
          {frame !== null && (
            <div className="revision-pair">
              {(at === newest ? [newest] : [at, newest]).map((r, i) => (
                <figure key={i}>
                  <Picture alt={`Revision ${r.revision}`} src={pictureUrl({ id: frame }, { id: look.id, revision: r.revision })} />
                  <figcaption>
                    Revision {r.revision}
                    {r === newest && ', the newest'}
                  </figcaption>
                </figure>
              ))}
            </div>
          )}
          <ol>
            {data.map((r) => (
              <li key={r.revision} aria-current={r === at}>
                <div className="revision-line">
                  <button type="button" onClick={() => setChosen(r.revision)} title="Show beside the newest">
                    {r.revision}
                  </button>
                  <Label look={look.id} line={r} />
                  <small>{when.format(new Date(r.createdAt))}</small>
                  {r !== newest && (
                    <Button size="2xs" variant="outline" loading={saving.isLoading} onClick={() => void restore(r)}>
                      Bring back
                    </Button>
                  )}
                </div>
                <DyeStrip strip={r.strip} />
                <p>{r.changes === null ? 'The first.' : r.changes.length === 0 ? 'Nothing changed.' : `${r.changes.join('; ')}.`}</p>
              </li>
            ))}
          </ol>
        </div>
      )}
    </Sheet>
  );
}
function Label({ look, line }: { look: number; line: RevisionLine }): React.JSX.Element {
  const [label] = useLabelRevisionMutation(),
    [text, setText] = useState(line.label);
  const keep = (): void => {
    if (text.trim() === line.label) return;
    label({ id: look, revision: line.revision, label: text.trim() })
      .unwrap()
      .catch((e: unknown) => complain(messageOf(e)));
  };
  return (
    <input
      aria-label={`Name of revision ${line.revision}`}
      placeholder="no name of its own"
      maxLength={80}
      value={text}
      onChange={(e) => setText(e.target.value)}
      onBlur={keep}
      onKeyDown={(e) => {
        if (e.key === 'Enter') e.currentTarget.blur();
      }}
    />
  );
}
