import { Button, Input } from '@chakra-ui/react';
import { Trash2 } from 'lucide-react';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { messageOf, pictureUrl, useCreateShootMutation, useDeleteShootMutation, useShootsQuery } from '../api.ts';
import { complain } from '../kit/notices.tsx';
import { Picture } from '../kit/Picture.tsx';
import { Sheet } from '../kit/Sheet.tsx';
import { TopBar } from '../kit/TopBar.tsx';
import { Nothing, Waiting } from '../kit/Waiting.tsx';
import type { ShootCard } from '../types.ts';

/** All shoots as cards of their lights. */
export default function ShootsScreen(): React.JSX.Element {
  const { data: shoots, error, refetch } = useShootsQuery(),
    [creating, setCreating] = useState(false),
    [name, setName] = useState(''),
    [leaving, setLeaving] = useState<ShootCard | null>(null);
  const [create] = useCreateShootMutation(),
    [remove] = useDeleteShootMutation(),
    navigate = useNavigate();
  const start = async (): Promise<void> => {
    try {
      const shoot = await create(name).unwrap();
      void navigate(`/shoots/${shoot.id}?bring`);
    } catch (e) {
      complain(messageOf(e));
    }
  };
  return (
    <div className="page">
      <TopBar title={<b>Shoots</b>} note={shoots && `${shoots.length} ${shoots.length === 1 ? 'shoot' : 'shoots'}`}>
        <Button size="xs" colorPalette="dye" onClick={() => setCreating(true)}>
          New shoot
        </Button>
      </TopBar>
      {error ? (
        <Nothing title="Shoots cannot be shown" words={messageOf(error)}>
          <Button size="sm" onClick={() => void refetch()}>
            Try again
          </Button>
        </Nothing>
      ) : !shoots ? (
        <Waiting words="Looking for shoots…" />
      ) : shoots.length === 0 ? (
        <Nothing title="No shoots yet" words="A shoot is the set of raw images of one assignment. Start one, then bring its raw files in.">
          <Button size="sm" colorPalette="dye" onClick={() => setCreating(true)}>
            New shoot
          </Button>
        </Nothing>
      ) : (
        <main className="shoot-cards">
          {shoots.map((s) => (
            <article key={s.id} className="shoot-card">
              <Link to={`/shoots/${s.id}`} aria-label={s.name}>
                <div className={`shoot-cover n${Math.min(4, s.cover.length)}`}>
                  {s.cover.map((id) => (
                    <Picture key={id} alt="" src={pictureUrl({ id }, s.lookId ? { id: s.lookId, revision: s.lookRevision ?? 1 } : null)} />
                  ))}
                  {s.cover.length === 0 && <span>no frames yet</span>}
                </div>
                <h2>{s.name}</h2>
              </Link>
              <p>
                {s.frameCount} frames{s.lights.length > 0 && `, ${s.lights.length} ${s.lights.length === 1 ? 'light' : 'lights'}`}
                <button type="button" className="icon-button" aria-label={`Remove ${s.name}`} onClick={() => setLeaving(s)}>
                  <Trash2 size={13} />
                </button>
              </p>
            </article>
          ))}
        </main>
      )}
      {creating && (
        <Sheet title="New shoot" onClose={() => setCreating(false)}>
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
              <Button size="sm" variant="ghost" onClick={() => setCreating(false)}>
                Cancel
              </Button>
              <Button size="sm" type="submit" colorPalette="dye" disabled={!name.trim()}>
                Start
              </Button>
            </div>
          </form>
        </Sheet>
      )}
      {leaving && (
        <Sheet title={`Remove ${leaving.name}?`} onClose={() => setLeaving(null)}>
          <p>Dyepot forgets this shoot and its deliveries. The raw files and every delivered file stay where they are.</p>
          <div className="sheet-actions">
            <Button size="sm" variant="ghost" onClick={() => setLeaving(null)}>
              Keep it
            </Button>
            <Button
              size="sm"
              colorPalette="dye"
              onClick={() => {
                remove(leaving.id)
                  .unwrap()
                  .catch((e: unknown) => complain(messageOf(e)));
                setLeaving(null);
              }}
            >
              Remove
            </Button>
          </div>
        </Sheet>
      )}
    </div>
  );
}
