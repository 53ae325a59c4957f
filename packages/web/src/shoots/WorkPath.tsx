import { Link } from 'react-router';
import { useCancelJobMutation } from '../api.ts';
import { timeLeft } from '../deliveries/timeLeft.ts';
import { DyeStrip } from '../kit/DyeStrip.tsx';
import type { Shoot, Job } from '../types.ts';

/** The path of the work for a shoot, and where each part stands. */
export function WorkPath({
  shoot,
  importing,
  troubled,
  onLook,
}: {
  shoot: Shoot;
  importing: Job | undefined;
  troubled: Job | undefined;
  onLook: () => void;
}): React.JSX.Element {
  const [cancel] = useCancelJobMutation(),
    missing = shoot.frames.filter((f) => f.missing).length;
  return (
    <div className="work-path">
      <div>
        <b>In</b>
        <span>
          {shoot.frames.length} raws{missing > 0 && `, ${missing} missing`}
        </span>
      </div>
      <Link to={`/ground?shoot=${shoot.id}`}>
        <b>Ground</b>
        <span>
          {shoot.frames.filter((f) => f.groundwork).length} of {shoot.frames.length} done
        </span>
      </Link>
      <div>
        <b>Look</b>
        <span>
          {shoot.look
            ? `${shoot.look.name}, revision ${shoot.look.revision}`
            : shoot.rendition === 'plain'
              ? 'neutral response'
              : `neutral response, ${shoot.rendition}`}
        </span>
      </div>
      <div>
        <b>Deliver</b>
        <span>{shoot.deliveries === 0 ? 'not yet' : `${shoot.deliveries} ${shoot.deliveries === 1 ? 'delivery' : 'deliveries'}`}</span>
      </div>
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
      {!importing && troubled && (
        <div className="path-trouble">
          <b>{troubled.failed} could not be read</b>
          <span
            title={troubled.items
              .filter((i) => i.message)
              .map((i) => i.message)
              .join('\n')}
          >
            {troubled.items.find((i) => i.message)?.message}
          </span>
        </div>
      )}
      <button type="button" className="path-look" onClick={() => onLook()} aria-label="Choose the shoot’s look">
        {shoot.look ? (
          <>
            <DyeStrip strip={shoot.look.strip} height={8} />
            <span>{shoot.look.name}</span>
          </>
        ) : (
          <span>Choose a look…</span>
        )}
      </button>
    </div>
  );
}
