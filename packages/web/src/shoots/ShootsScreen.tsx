import { Button, Input } from '@chakra-ui/react';
import { Trash2, X } from 'lucide-react';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { messageOf, useCreateShootMutation, useShootsQuery, useTakeOutShootMutation } from '../api.ts';
import { pictureUrl } from '../pictures.ts';
import { complain, tell } from '../kit/notices.tsx';
import { Picture } from '../kit/Picture.tsx';
import { Sheet } from '../kit/Sheet.tsx';
import { TopBar } from '../kit/TopBar.tsx';
import { Nothing, Waiting } from '../kit/Waiting.tsx';
import { undoTakingOut } from '../trash/undoTakingOut.ts';
import type { ShootCard } from '../types.ts';

/** Asks for a shoot's name and starts it. */
function NewShoot({ onClose }: { onClose: () => void }): React.JSX.Element {
  const [name, setName] = useState(''),
    [create, creating] = useCreateShootMutation(),
    navigate = useNavigate();
  const start = async (): Promise<void> => {
    try {
      const shoot = await create(name.trim()).unwrap();
      void navigate(`/shoots/${shoot.id}?bring`);
    } catch (e) {
      complain(messageOf(e));
    }
  };
  return (
    <Sheet title="New shoot" onClose={onClose}>
      <form
        onSubmit={(e) => {
          e.preventDefault();
          if (name.trim()) void start();
        }}
      >
        <label>
          Name
          <Input
            size="sm"
            autoFocus
            value={name}
            maxLength={120}
            placeholder="Client, assignment"
            onChange={(e) => setName(e.target.value)}
          />
        </label>
        <div className="sheet-actions">
          <Button size="sm" variant="ghost" onClick={onClose}>
            Cancel
          </Button>
          <Button size="sm" type="submit" colorPalette="dye" disabled={!name.trim()} loading={creating.isLoading}>
            Start
          </Button>
        </div>
      </form>
    </Sheet>
  );
}

function Card({ shoot: s }: { shoot: ShootCard }): React.JSX.Element {
  const [takeOut] = useTakeOutShootMutation();
  const leave = async (): Promise<void> => {
    try {
      await takeOut(s.id).unwrap();
      tell(`${s.name} is in the trash, where it is kept for 30 days; no file is touched`, undoTakingOut('shoot', [s.id]));
    } catch (e) {
      complain(messageOf(e));
    }
  };
  return (
    <article className="shoot-card" aria-label={s.name}>
      <Link to={`/shoots/${s.id}`} aria-label={s.name}>
        <div className={`shoot-cover n${Math.min(4, s.cover.length)}`}>
          {s.cover.map((id) => (
            <Picture key={id} alt="" src={pictureUrl({ id }, s.lookId ? { id: s.lookId, revision: s.lookRevision ?? 1 } : null)} />
          ))}
          {s.cover.length === 0 && <span>no frames yet</span>}
        </div>
        <h2 title={s.name}>{s.name}</h2>
      </Link>
      <p>
        {s.frameCount} {s.frameCount === 1 ? 'frame' : 'frames'}
        {s.lights.length > 0 && `, ${s.lights.length} ${s.lights.length === 1 ? 'light' : 'lights'}`}
        <button
          type="button"
          className="icon-button"
          aria-label={`Take out ${s.name}`}
          title="Take out; kept in the trash for 30 days, no file is touched"
          onClick={() => void leave()}
        >
          <X size={14} aria-hidden />
        </button>
      </p>
    </article>
  );
}

/** All shoots as cards of their lights. */
export default function ShootsScreen(): React.JSX.Element {
  const { data: shoots, error, refetch } = useShootsQuery(),
    [creating, setCreating] = useState(false);
  return (
    <div className="page">
      <TopBar page="Shoots" title="Shoots" note={shoots && `${shoots.length} ${shoots.length === 1 ? 'shoot' : 'shoots'}`}>
        <Button size="xs" variant="ghost" asChild>
          <Link to="/trash" title="What was taken out, kept for 30 days">
            <Trash2 size={14} aria-hidden /> Trash
          </Link>
        </Button>
        <Button size="xs" colorPalette="dye" onClick={() => setCreating(true)}>
          New shoot
        </Button>
      </TopBar>
      <main id="main" tabIndex={-1}>
        {error && !shoots ? (
          <Nothing title="Shoots cannot be shown" words={messageOf(error)}>
            <Button size="sm" onClick={() => void refetch()}>
              Try again
            </Button>
          </Nothing>
        ) : !shoots ? (
          <Waiting words="Looking for shoots…" />
        ) : shoots.length === 0 ? (
          <Nothing title="Start here" words="From raw files to a first picture in three steps.">
            <ol className="first-steps">
              <li>
                <b>Start a shoot</b>
                <span>the set of raw images of one assignment</span>
              </li>
              <li>
                <b>Bring its raw files in</b>
                <span>from a folder, where they stay as they are</span>
              </li>
              <li>
                <b>Double-click a frame</b>
                <span>it opens on the bench, where looks are designed</span>
              </li>
            </ol>
            <Button size="sm" colorPalette="dye" onClick={() => setCreating(true)}>
              New shoot
            </Button>
          </Nothing>
        ) : (
          <div className="shoot-cards">
            {shoots.map((s) => (
              <Card key={s.id} shoot={s} />
            ))}
          </div>
        )}
      </main>
      {creating && <NewShoot onClose={() => setCreating(false)} />}
    </div>
  );
}
