import { Button } from '@chakra-ui/react';
import { useState } from 'react';
import { messageOf } from '../api.ts';
import { complain } from '../kit/notices.tsx';
import { Sheet } from '../kit/Sheet.tsx';
import { Waiting } from '../kit/Waiting.tsx';
import type { Job, OrderQuestion } from '../types.ts';
import { useDeliverMovedMutation, useMovedSinceQuery } from './deliveryApi.ts';
import { Question, unasked, type Answers } from './OrderQuestion.tsx';

const shown = 200;

/** Frames that would be delivered otherwise now, and why; they alone are delivered. */
export function MovedSheet({ job, onClose }: { job: Job; onClose: () => void }): React.JSX.Element {
  const { data, error } = useMovedSinceQuery(job.id, { refetchOnMountOrArgChange: true }),
    [deliver, state] = useDeliverMovedMutation(),
    [asked, setAsked] = useState<OrderQuestion | null>(null),
    [answers, setAnswers] = useState<Answers>(unasked);
  const go = async (given: Answers): Promise<void> => {
    setAnswers(given);
    setAsked(null);
    try {
      await deliver({ id: job.id, ...given }).unwrap();
      onClose();
    } catch (e) {
      const { status, data: said } = e as { status?: unknown; data?: Partial<OrderQuestion> };
      if (status === 409 && said?.question) setAsked(said as OrderQuestion);
      else complain(messageOf(e));
    }
  };
  return (
    <Sheet title="What has moved since" onClose={onClose}>
      {error ? (
        <p role="alert">{messageOf(error)}</p>
      ) : asked ? (
        <Question asked={asked} onAnswer={(a) => void go({ ...answers, ...a })} onBack={() => setAsked(null)} />
      ) : !data ? (
        <Waiting words="Comparing what was ordered with what is…" />
      ) : (
        <>
          <p className="hint">
            {data.moved.length === 0
              ? 'Every frame would be rendered as it was. '
              : `${data.moved.length} of ${job.total} frames would be rendered otherwise now. `}
            {data.engine && `They were rendered by engine ${job.engineVersion}, another than the one at hand. `}
            {data.gone.length > 0 && `No longer in the shoot: ${data.gone.slice(0, 6).join(', ')}${data.gone.length > 6 ? '…' : ''}. `}
          </p>
          <ul className="moved">
            {data.moved.slice(0, shown).map((m) => (
              <li key={m.frameId}>
                <b>{m.name}</b> {m.why.join(', ')}
              </li>
            ))}
            {data.moved.length > shown && <li>and {data.moved.length - shown} more</li>}
          </ul>
          <div className="sheet-actions">
            <Button size="sm" variant="ghost" onClick={onClose}>
              Close
            </Button>
            {data.moved.length > 0 && (
              <Button size="sm" colorPalette="dye" loading={state.isLoading} onClick={() => void go(answers)}>
                Deliver {data.moved.length === 1 ? 'it' : `these ${data.moved.length}`}
              </Button>
            )}
          </div>
        </>
      )}
    </Sheet>
  );
}
