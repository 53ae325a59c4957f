import { Button } from '@chakra-ui/react';
import { Ellipsis } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import { useDeliverRestMutation } from './deliveryApi.ts';
import { messageOf, useCancelJobMutation, useGoOnMutation, useJobsQuery, useShootsQuery } from '../api.ts';
import { LazyMenu } from '../kit/LazyMenu.tsx';
import { complain } from '../kit/notices.tsx';
import { TopBar } from '../kit/TopBar.tsx';
import { Nothing, Waiting } from '../kit/Waiting.tsx';
import type { FileSettings, Job, ShootCard } from '../types.ts';
import { lossy, spaceNames } from './deliverForm.ts';
import { useDeliverAgainMutation, usePauseJobMutation, usePutJobFirstMutation } from './deliveryApi.ts';
import { Workers } from './Workers.tsx';
import { MovedSheet } from './MovedSheet.tsx';
import { pictureUrl } from '../pictures.ts';
import { timeLeft } from '../kit/timeLeft.ts';

const stateWords = {
  waiting: 'waiting',
  running: 'under way',
  paused: 'resting',
  done: 'done',
  cancelled: 'stopped',
  failed: 'ended early',
} as const;
const formatNames = { jpeg: 'JPEG', tiff: 'TIFF', png: 'PNG', webp: 'WebP', avif: 'AVIF' } as const;
function sizeWords({ size, sizeBy = 'long', box }: FileSettings): string {
  if (box) return `within ${box.join(' × ')} px`;
  if (size === null) return 'full size';
  return sizeBy === 'megapixels' ? `${size} megapixels` : `${size} px${sizeBy === 'short' ? ' on the short edge' : ''}`;
}
function formatWords(s: FileSettings | null): string {
  if (!s) return '';
  return [
    formatNames[s.format],
    `${s.depth} bit`,
    spaceNames[s.space],
    sizeWords(s),
    lossy(s.format) && `quality ${s.quality}`,
    s.sharpen && s.sharpen !== 'none' && `sharpened for ${s.sharpen === 'screen' ? 'a screen' : `${s.sharpen} paper`}`,
  ]
    .filter(Boolean)
    .join(', ');
}

function Delivery({
  job,
  shoot,
  waits,
}: {
  job: Job;
  shoot: ShootCard | undefined;
  /** whether others wait too */
  waits: boolean;
}): React.JSX.Element {
  const [cancel] = useCancelJobMutation(),
    [goOn] = useGoOnMutation(),
    [deliverRest] = useDeliverRestMutation(),
    [again] = useDeliverAgainMutation(),
    [pause] = usePauseJobMutation(),
    [putFirst] = usePutJobFirstMutation(),
    shootName = shoot?.name ?? 'A shoot',
    look = shoot?.lookId ? { id: shoot.lookId, revision: shoot.lookRevision ?? 1 } : null,
    [moved, setMoved] = useState(false),
    finished = job.done + job.failed,
    left = job.total - job.done,
    alive = job.state === 'running' || job.state === 'waiting',
    over = !alive && job.state !== 'paused';
  const attempt = (work: Promise<unknown>): void => {
    work.catch((e: unknown) => complain(messageOf(e)));
  };
  return (
    <article className="delivery" data-testid="delivery">
      <header>
        <div>
          <h2>{shootName}</h2>
          <p>
            {job.lookName}
            {job.lookRevision ? `, revision ${job.lookRevision}` : ''} · {formatWords(job.settings)} · engine {job.engineVersion}
          </p>
          {job.also.map((w, i) => (
            <p key={i}>
              {w.name ? `${w.name}: ` : 'and '}
              {formatWords(w.file)}
            </p>
          ))}
        </div>
        <span className={`state ${job.state}`}>{job.failed > 0 && !alive ? `${job.failed} failed` : stateWords[job.state]}</span>
        {job.state === 'waiting' && waits && (
          <Button size="xs" variant="ghost" title="Before all others that wait" onClick={() => attempt(putFirst(job.id).unwrap())}>
            Next
          </Button>
        )}
        {alive && (
          <Button size="xs" variant="outline" title="What is under way is finished first" onClick={() => attempt(pause(job.id).unwrap())}>
            Pause
          </Button>
        )}
        {(alive || job.state === 'paused') && (
          <Button size="xs" variant="outline" onClick={() => attempt(cancel(job.id).unwrap())}>
            Stop
          </Button>
        )}
        {!alive && left > 0 && (
          <Button
            size="xs"
            variant="outline"
            title={job.olderEngine ? 'Under the engine at hand' : 'As it was ordered'}
            onClick={() => attempt(job.olderEngine ? deliverRest(job.id).unwrap() : goOn(job.id).unwrap())}
          >
            {job.olderEngine ? `Deliver the other ${left} anew` : `Go on with ${left}`}
          </Button>
        )}
        {!alive && job.done > 0 && (
          <>
            <Button size="xs" variant="outline" asChild>
              <a href={`/api/jobs/${job.id}/zip`} download>
                Download zip
              </a>
            </Button>
            <LazyMenu
              trigger={
                <button type="button" className="icon-button" aria-label={`More for the delivery of ${shootName}`} title="More">
                  <Ellipsis size={15} aria-hidden />
                </button>
              }
              items={[
                { value: 'sheet', words: 'Contact sheet (PDF)' },
                { value: 'record', words: 'Its record' },
                { value: 'moved', words: 'What has moved since…' },
                { value: 'again', words: 'Deliver it again', disabled: job.olderEngine },
              ]}
              onSelect={(act) => {
                if (act === 'sheet') window.location.assign(`/api/jobs/${job.id}/sheet.pdf`);
                if (act === 'record') window.location.assign(`/api/jobs/${job.id}/record`);
                if (act === 'moved') setTimeout(() => setMoved(true), 60);
                if (act === 'again') attempt(again(job.id).unwrap());
              }}
            />
          </>
        )}
        {moved && <MovedSheet job={job} onClose={() => setMoved(false)} />}
      </header>
      <div
        className="bar"
        role="progressbar"
        aria-valuemin={0}
        aria-valuemax={job.total}
        aria-valuenow={finished}
        aria-label={`${finished} of ${job.total} files`}
      >
        <i style={{ width: `${(job.done / Math.max(1, job.total)) * 100}%` }} />
        <i className="failed" style={{ width: `${(job.failed / Math.max(1, job.total)) * 100}%` }} />
      </div>
      <p className="delivery-line">
        <span>
          {finished} of {job.total}
        </span>
        {alive && <span>{timeLeft(job.secondsLeft) || 'reckoning the time…'}</span>}
        <span className="spring" />
        <span className="delivered-to" title={job.folder ?? ''}>
          {job.folder}
        </span>
      </p>
      {job.recent.length > 0 && !over && (
        <ol className="delivered-last" aria-label="Finished last">
          {job.recent.map((r) => (
            <li key={r.frameId}>
              <img src={pictureUrl({ id: r.frameId }, look, 360)} alt={r.name} title={r.name} loading="lazy" />
            </li>
          ))}
        </ol>
      )}
      {job.message && (
        <p className="job-message" role="status">
          {job.message}
        </p>
      )}
      {job.failures.length > 0 && (
        <ul className="failures">
          {job.failures.map((f) => (
            <li key={f.id}>
              <b>{f.name}</b> {f.message}
            </li>
          ))}
          {job.failed > job.failures.length && <li>and {job.failed - job.failures.length} more</li>}
        </ul>
      )}
    </article>
  );
}

/** Every delivery: how far it is, what went wrong frame by frame, and its files. */
export default function DeliveriesScreen(): React.JSX.Element {
  const { data: jobs, error } = useJobsQuery(),
    { data: shoots } = useShootsQuery(),
    deliveries = jobs?.filter((j) => j.kind === 'delivery');
  return (
    <div className="page">
      <TopBar page="Deliveries" title="Deliveries" note={deliveries && `${deliveries.length} in all`} />
      <main id="main" tabIndex={-1}>
        <Workers />
        {error && !jobs ? (
          <Nothing title="Deliveries cannot be shown" words={messageOf(error)} />
        ) : !deliveries ? (
          <Waiting words="Looking for deliveries…" />
        ) : deliveries.length === 0 ? (
          <Nothing title="Nothing delivered yet" words="Open a shoot, give it a look, and deliver it: a folder of finished files.">
            <Button asChild size="sm" colorPalette="dye">
              <Link to="/shoots">Go to Shoots</Link>
            </Button>
          </Nothing>
        ) : (
          <div className="deliveries">
            {deliveries.map((j) => (
              <Delivery
                key={j.id}
                job={j}
                waits={deliveries.filter((d) => d.state === 'waiting').length > 1}
                shoot={shoots?.find((s) => s.id === j.shootId)}
              />
            ))}
          </div>
        )}
      </main>
    </div>
  );
}
