import { Button, Input } from '@chakra-ui/react';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { messageOf, useSettingsQuery } from '../api.ts';
import { complain, tell } from '../kit/notices.tsx';
import { Sheet } from '../kit/Sheet.tsx';
import { TopBar } from '../kit/TopBar.tsx';
import { Nothing, QuietPage, Waiting } from '../kit/Waiting.tsx';
import { PasswordSheet } from './PasswordSheet.tsx';
import './people.css';
import {
  useAddPersonMutation,
  useChangePersonMutation,
  useLinksQuery,
  usePeopleQuery,
  useRemovePersonMutation,
  useTakeBackLinkMutation,
  type PersonLine,
  type Role,
} from './peopleApi.ts';

const mayWords: Record<Role, string> = { look: 'may look', change: 'may change' };
const onDay = (time: string): string => new Date(time).toLocaleDateString('en-GB', { day: 'numeric', month: 'long', year: 'numeric' });

/** Who may come in from other machines, and what is open to whoever has a link. */
export default function PeopleScreen(): React.JSX.Element {
  const { data: settings } = useSettingsQuery(),
    away = settings?.away === true,
    { data: people, error } = usePeopleQuery(undefined, { skip: !away }),
    { data: links } = useLinksQuery(undefined, { skip: !away }),
    [change] = useChangePersonMutation(),
    [remove] = useRemovePersonMutation(),
    [takeBack] = useTakeBackLinkMutation(),
    [adding, setAdding] = useState(false),
    [resetting, setResetting] = useState<PersonLine | null>(null);
  const attempt = (work: Promise<unknown>, words: string): void => {
    work.then(
      () => tell(words),
      (e: unknown) => complain(messageOf(e)),
    );
  };
  if (settings && !away)
    return (
      <QuietPage
        page="People and links"
        title="Only this machine is answered"
        words="People and links are for a Dyepot that is met from other machines: start it with dyepot serve --listen. docs/away.md says how."
        way={{ to: '/shoots', words: 'Go to Shoots' }}
      />
    );
  return (
    <div className="page">
      <TopBar page="People and links" note="who may come in from other machines">
        <Button size="xs" colorPalette="dye" onClick={() => setAdding(true)}>
          Add someone
        </Button>
      </TopBar>
      <main id="main" tabIndex={-1} className="people">
        {error ? (
          <Nothing title="People cannot be shown" words={messageOf(error)} />
        ) : !people || !links ? (
          <Waiting words="Looking who may come in…" />
        ) : (
          <>
            <section aria-label="People">
              <h2>People</h2>
              <ul>
                {people.map((p) => (
                  <li key={p.id}>
                    <div>
                      <b title={p.name}>{p.name}</b>
                      <small>{p.seenAt ? `last seen on ${onDay(p.seenAt)}` : 'was not here yet'}</small>
                    </div>
                    <select
                      aria-label={`What ${p.name} may do`}
                      value={p.role}
                      onChange={(e) =>
                        attempt(
                          change({ id: p.id, role: e.target.value as Role }).unwrap(),
                          `${p.name} ${mayWords[e.target.value as Role]} now`,
                        )
                      }
                    >
                      <option value="look">{mayWords.look}</option>
                      <option value="change">{mayWords.change}</option>
                    </select>
                    <Button size="xs" variant="outline" aria-label={`New password for ${p.name}`} onClick={() => setResetting(p)}>
                      New password…
                    </Button>
                    <Button
                      size="xs"
                      variant="ghost"
                      aria-label={`Take off ${p.name}`}
                      onClick={() => attempt(remove(p.id).unwrap(), `${p.name} is let in no more`)}
                    >
                      Take off
                    </Button>
                  </li>
                ))}
              </ul>
            </section>
            <section aria-label="Links">
              <h2>Links</h2>
              {links.length === 0 ? (
                <p className="hint">None is open. A look’s menu on the Shelf and a swatch card make them.</p>
              ) : (
                <ul>
                  {links.map((l) => (
                    <li key={l.id}>
                      <div>
                        <b title={l.shows}>{l.shows}</b>
                        <small>
                          made on {onDay(l.createdAt)}, open until {onDay(l.expiresAt)}
                        </small>
                      </div>
                      <Button
                        size="xs"
                        variant="ghost"
                        aria-label={`Take back the link to ${l.shows}`}
                        onClick={() => attempt(takeBack(l.id).unwrap(), 'The link opens nothing any more')}
                      >
                        Take back
                      </Button>
                    </li>
                  ))}
                </ul>
              )}
            </section>
          </>
        )}
      </main>
      {adding && <AddSheet onClose={() => setAdding(false)} />}
      {resetting && (
        <PasswordSheet
          title={`A new password for ${resetting.name}`}
          onClose={() => setResetting(null)}
          onGiven={(_old, password) => change({ id: resetting.id, password }).unwrap()}
        />
      )}
    </div>
  );
}

function AddSheet({ onClose }: { onClose: () => void }): React.JSX.Element {
  const [add] = useAddPersonMutation(),
    { register, handleSubmit } = useForm<{ name: string; password: string; role: Role }>({
      defaultValues: { name: '', password: '', role: 'look' },
    }),
    [wrong, setWrong] = useState('');
  return (
    <Sheet title="Add someone" onClose={onClose}>
      <form
        onSubmit={(e) =>
          void handleSubmit((v) =>
            add(v)
              .unwrap()
              .then(onClose, (error: unknown) => setWrong(messageOf(error))),
          )(e)
        }
      >
        <label>
          Name
          <Input size="sm" autoFocus autoComplete="off" required maxLength={80} {...register('name')} />
        </label>
        <label>
          Password, 12 letters or more
          <Input size="sm" type="password" autoComplete="new-password" required {...register('password')} />
        </label>
        <label>
          They{' '}
          <select {...register('role')}>
            <option value="look">{mayWords.look}</option>
            <option value="change">{mayWords.change}</option>
          </select>
        </label>
        {wrong && (
          <p className="form-error" role="alert">
            {wrong}
          </p>
        )}
        <div className="sheet-actions">
          <Button size="sm" variant="ghost" onClick={onClose}>
            Cancel
          </Button>
          <Button size="sm" type="submit" colorPalette="dye">
            Add
          </Button>
        </div>
      </form>
    </Sheet>
  );
}
