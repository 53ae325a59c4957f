import { Button } from '@chakra-ui/react';
import { Link } from 'react-router';
import { messageOf, useCancelJobMutation, useJobsQuery, useShootsQuery } from '../api.ts';
import { TopBar } from '../kit/TopBar.tsx';
import { Nothing, Waiting } from '../kit/Waiting.tsx';
import type { Job } from '../types.ts';
import { timeLeft } from './timeLeft.ts';

const stateWords = { waiting: 'waiting', running: 'under way', done: 'done', cancelled: 'stopped' } as const;
const formatWords = (j: Job): string =>
  j.settings
    ? `${j.settings.format.toUpperCase()}, ${j.settings.depth} bit, ${j.settings.space === 'p3' ? 'Display P3' : 'sRGB'}, ${j.settings.size ? `${j.settings.size} px` : 'full size'}${j.settings.format === 'jpeg' ? `, quality ${j.settings.quality}` : ''}`
    : '';

function Delivery({ job, shootName }: { job: Job; shootName: string }): React.JSX.Element {
  const [cancel] = useCancelJobMutation(),
    finished = job.done + job.failed,
    alive = job.state === 'running' || job.state === 'waiting';
  return (
    <article className="delivery" data-testid="delivery">
      <header>
        <div>
          <h2>{shootName}</h2>
          <p>
            {job.lookName}
            {job.lookRevision ? `, revision ${job.lookRevision}` : ''} · {formatWords(job)} · engine {job.engineVersion}
          </p>
        </div>
        <span className={`state ${job.state}`}>{job.failed > 0 && !alive ? `${job.failed} failed` : stateWords[job.state]}</span>
        {alive && (
          <Button size="xs" variant="outline" onClick={() => void cancel(job.id)}>
            Stop
          </Button>
        )}
        {!alive && job.done > 0 && (
          <Button size="xs" variant="outline" asChild>
            <a href={`/api/jobs/${job.id}/zip`} download>
              Download zip
            </a>
          </Button>
        )}
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
        <span className="where" title={job.folder ?? ''}>
          {job.folder}
        </span>
      </p>
      {job.failed > 0 && (
        <ul className="failures">
          {job.items
            .filter((i) => i.state === 'failed')
            .map((i) => (
              <li key={i.id}>
                <b>{i.name}</b> {i.message}
              </li>
            ))}
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
      <TopBar title={<b>Deliveries</b>} note={deliveries && `${deliveries.length} in all`} />
      {error ? (
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
        <main className="deliveries">
          {deliveries.map((j) => (
            <Delivery key={j.id} job={j} shootName={shoots?.find((s) => s.id === j.shootId)?.name ?? 'A shoot'} />
          ))}
        </main>
      )}
    </div>
  );
}
