import { UserRound } from 'lucide-react';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { messageOf, useSettingsQuery } from '../api.ts';
import { LazyMenu } from '../kit/LazyMenu.tsx';
import { complain } from '../kit/notices.tsx';
import { saver } from '../saving/index.ts';
import { PasswordSheet } from './PasswordSheet.tsx';
import { useLogOutMutation, useOwnPasswordMutation } from './peopleApi.ts';

/** Whoever has logged in, and what they can do about it. */
export default function PersonMenu(): React.JSX.Element | null {
  const { data: settings } = useSettingsQuery(),
    navigate = useNavigate(),
    [logOut] = useLogOutMutation(),
    [ownPassword] = useOwnPasswordMutation(),
    [changing, setChanging] = useState(false),
    person = settings?.person;
  if (!person) return null;
  const leave = async (): Promise<void> => {
    if (!(await saver.flush())) return complain('What you did is not saved yet; log out when it is');
    await logOut().unwrap();
    // nothing of the shoots stays on the page, nor is kept under another's name
    window.location.assign('/shoots');
  };
  const acts: Record<string, () => void> = {
    people: () => void navigate('/people'),
    password: () => setTimeout(() => setChanging(true), 60),
    out: () => void leave().catch((e: unknown) => complain(messageOf(e))),
  };
  return (
    <>
      <LazyMenu
        trigger={
          <button type="button" className="person-button" title={`${person.name}, who may ${person.role}`}>
            <UserRound size={14} aria-hidden /> <span>{person.name}</span>
            {person.role === 'look' && <small>looking</small>}
          </button>
        }
        items={[
          ...(person.role === 'change' ? [{ value: 'people', words: 'People and links' }] : []),
          { value: 'password', words: 'Change password…' },
          { value: 'out', words: 'Log out' },
        ]}
        onSelect={(value) => acts[value]?.()}
      />
      {changing && (
        <PasswordSheet
          title="Change your password"
          asksOld
          onClose={() => setChanging(false)}
          onGiven={(old, password) => ownPassword({ old, password }).unwrap()}
        />
      )}
    </>
  );
}
