import { Button } from '@chakra-ui/react';
import { X } from 'lucide-react';
import { Link } from 'react-router';
import { messageOf, useTakeOutDraftMutation } from '../api.ts';
import { DyeStrip } from '../kit/DyeStrip.tsx';
import { complain, tell } from '../kit/notices.tsx';
import { undoTakingOut } from '../trash/undoTakingOut.ts';
import type { DraftCard } from '../types.ts';

const minute = 60_000;
const ago = (iso: string): string => {
  const minutes = Math.max(0, Math.round((Date.now() - new Date(iso).getTime()) / minute));
  if (minutes < 1) return 'just now';
  if (minutes < 60) return `${minutes} min ago`;
  if (minutes < 1440) return `${Math.round(minutes / 60)} h ago`;
  return new Date(iso).toLocaleDateString('en-GB', { day: 'numeric', month: 'short' });
};

/** Drafts under way, to go on with or to take out. */
export function DraftLine({ drafts }: { drafts: readonly DraftCard[] }): React.JSX.Element {
  const [takeOut] = useTakeOutDraftMutation();
  return (
    <section className="drafts" aria-labelledby="drafts-title">
      <h2 id="drafts-title">
        Under way <small>drafts of the bench, kept as you work</small>
      </h2>
      <ul>
        {drafts.map((d) => (
          <li key={d.id} data-testid="draft">
            <Link to={`/bench?draft=${d.id}`} title={`Go on with ${d.name}`}>
              <b>{d.name}</b>
              <small>
                {d.broken ??
                  `${d.lookId === null ? 'not saved yet' : `from revision ${d.revision}`}, ${d.steps} ${d.steps === 1 ? 'step' : 'steps'}, ${ago(d.changedAt)}`}
              </small>
              <DyeStrip strip={d.strip} height={8} />
            </Link>
            <Button
              size="xs"
              variant="ghost"
              aria-label={`Take out the draft ${d.name}`}
              title="Take out; kept in the trash for 30 days"
              onClick={() =>
                takeOut(d.id)
                  .unwrap()
                  .then(
                    () => tell(`The draft ${d.name} is in the trash`, undoTakingOut('draft', [d.id])),
                    (e: unknown) => complain(messageOf(e)),
                  )
              }
            >
              <X size={14} aria-hidden />
            </Button>
          </li>
        ))}
      </ul>
    </section>
  );
}
