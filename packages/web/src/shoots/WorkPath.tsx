import { X } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import { useCancelJobMutation, useGoOnMutation } from '../api.ts';
import { timeLeft } from '../kit/timeLeft.ts';
import { DyeStrip } from '../kit/DyeStrip.tsx';
import { dragsFrames, framesDropped } from './dragged.ts';
import type { Shoot, Job } from '../types.ts';

const key = 'dyepot-dealt-with';
/** How many came in, raws and finished pictures. */
function cameIn({ frames }: Shoot): string {
  const finished = frames.filter((f) => f.finished).length,
    raws = frames.length - finished;
  return `${raws} ${raws === 1 ? 'raw' : 'raws'}${finished > 0 ? `, ${finished} finished` : ''}`;
}
/** Imports whose troubles were put away. */
function usePutAway(): [ReadonlySet<number>, (id: number) => void] {
  const [ids, setIds] = useState<ReadonlySet<number>>(() => {
    try {
      return new Set(JSON.parse(localStorage.getItem(key) ?? '[]') as number[]);
    } catch {
      return new Set();
    }
  });
  return [
    ids,
    (id) => {
      const next = [...ids, id].slice(-200);
      localStorage.setItem(key, JSON.stringify(next));
      setIds(new Set(next));
    },
  ];
}

/** What did not come in, until it is put away, tried again or brought in by a later import. */
function Trouble({ job, onAway }: { job: Job; onAway: () => void }): React.JSX.Element {
  const [goOn] = useGoOnMutation(),
    words = job.message ?? job.failures[0]?.message ?? '';
  return (
    <div className="path-trouble" role="status">
      <b>{job.failed > 0 ? `${job.failed} could not be read` : 'Not all came in'}</b>
      <span title={[job.message, ...job.failures.map((f) => f.message)].filter(Boolean).join('\n')}>
        {words}{' '}
        <button type="button" className="text-button" onClick={() => void goOn(job.id)}>
          {job.state === 'failed' ? 'Go on' : 'Try again'}
        </button>
      </span>
      <button type="button" className="icon-button" aria-label="Put this away" title="Put this away" onClick={onAway}>
        <X size={13} aria-hidden />
      </button>
    </div>
  );
}

/** The path of the work for a shoot, and where each part stands; each part leads to where it is done. */
export function WorkPath({
  shoot,
  imports,
  onOpen,
  onDropped,
}: {
  shoot: Shoot;
  /** the shoot's imports, newest first */
  imports: readonly Job[];
  onOpen: (sheet: 'bring' | 'look' | 'deliver') => void;
  /** frames were dragged to a part of the work */
  onDropped: (ids: readonly number[], then: 'own look' | 'start' | 'deliver') => void;
}): React.JSX.Element {
  const [cancel] = useCancelJobMutation(),
    [putAway, dealtWith] = usePutAway(),
    missing = shoot.frames.filter((f) => f.missing).length,
    doubted = shoot.frames.filter((f) => f.doubt).length,
    importing = imports.find((j) => j.state === 'running' || j.state === 'waiting'),
    last = imports[0],
    troubled = !importing && last && (last.failed > 0 || last.state === 'failed') && !putAway.has(last.id) ? last : undefined;
  const none = shoot.frames.length === 0,
    [over, setOver] = useState<string | null>(null);
  /** What a part of the work does with frames that are dragged to it. */
  const takes = (then: 'own look' | 'start' | 'deliver'): React.HTMLAttributes<HTMLElement> => ({
    className: over === then ? 'dropping' : '',
    onDragOver: (e) => {
      if (!dragsFrames(e)) return;
      e.preventDefault();
      setOver(then);
    },
    onDragLeave: () => setOver(null),
    onDrop: (e) => {
      setOver(null);
      const ids = framesDropped(e);
      if (ids.length === 0) return;
      e.preventDefault();
      onDropped(ids, then);
    },
  });
  return (
    <nav className="work-path" aria-label="Path of the work">
      <button type="button" title="Bring raws in" onClick={() => onOpen('bring')}>
        <b>In</b>
        <span>
          {cameIn(shoot)}
          {missing > 0 && `, ${missing} missing`}
          {doubted > 0 && `, ${doubted} doubtful`}
        </span>
      </button>
      <Link
        {...takes('start')}
        to={`/ground?shoot=${shoot.id}`}
        aria-disabled={none}
        title="What makes frames technically alike, before any look"
      >
        <b>Ground</b>
        <span>
          {shoot.frames.filter((f) => f.groundwork).length} of {shoot.frames.length} done
        </span>
      </Link>
      <Link
        to={`/shoots/${shoot.id}/evenness`}
        aria-disabled={none}
        title="Match frames to the anchor of their light, and see how even the set is"
      >
        <b>Match</b>
        <span>evenness</span>
      </Link>
      <button
        {...takes('own look')}
        type="button"
        title="Choose the shoot’s look; frames dragged here get one of their own"
        onClick={() => onOpen('look')}
      >
        <b>Look</b>
        <span className="path-worn">
          {shoot.look ? (
            <>
              <i>{shoot.look.name}</i>, revision {shoot.look.revision}
              {shoot.look.newest > shoot.look.revision && ` of ${shoot.look.newest}`}
            </>
          ) : shoot.rendition === 'plain' ? (
            'neutral response'
          ) : (
            `neutral response, ${shoot.rendition}`
          )}
        </span>
      </button>
      <Link to={`/shoots/${shoot.id}/swatches`} aria-disabled={none} title="The same frames under several looks, to choose and to show">
        <b>Choose</b>
        <span>swatch card</span>
      </Link>
      <button
        {...takes('deliver')}
        type="button"
        disabled={none}
        title="Render finished files; of frames dragged here alone"
        onClick={() => onOpen('deliver')}
      >
        <b>Deliver</b>
        <span>{shoot.deliveries === 0 ? 'not yet' : `${shoot.deliveries} ${shoot.deliveries === 1 ? 'delivery' : 'deliveries'}`}</span>
      </button>
      {importing && (
        <div className="path-progress" role="status">
          <b>
            Bringing in {importing.done + importing.failed} of {importing.total}
          </b>
          <span>
            {timeLeft(importing.secondsLeft)}{' '}
            <button type="button" className="text-button" onClick={() => void cancel(importing.id)}>
              Stop
            </button>
          </span>
        </div>
      )}
      {troubled && <Trouble job={troubled} onAway={() => dealtWith(troubled.id)} />}
      <button type="button" className="path-look" onClick={() => onOpen('look')}>
        {shoot.look ? (
          <>
            <DyeStrip strip={shoot.look.strip} height={8} />
            <span title={shoot.look.name}>{shoot.look.broken ? 'cannot be read' : shoot.look.name}</span>
          </>
        ) : (
          <span>Choose a look…</span>
        )}
      </button>
    </nav>
  );
}
