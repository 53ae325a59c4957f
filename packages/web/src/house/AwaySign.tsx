import { CloudOff, LoaderCircle } from 'lucide-react';
import { useEffect, useState } from 'react';
import { useSaveState } from '../saving/index.ts';
import { useServerAway } from './serverAway.ts';

const quietMs = 1200;

/** Says that the server does not answer, and that something is not saved yet. Quiet while all is well. */
export function AwaySign(): React.JSX.Element {
  const away = useServerAway(),
    saving = useSaveState(),
    [slow, setSlow] = useState(false);
  useEffect(() => {
    setSlow(false);
    if (saving === 'kept') return;
    const timer = setTimeout(() => setSlow(true), quietMs);
    return () => clearTimeout(timer);
  }, [saving]);
  const words = away
    ? `The server does not answer. ${saving === 'kept' ? 'Dyepot goes on when it is back.' : 'What you did is not saved yet; it will be when it is back.'}`
    : saving === 'waiting'
      ? 'Not saved yet: the server could not take it. It is tried again.'
      : slow
        ? 'Not saved yet…'
        : '';
  return (
    <div
      role="status"
      className={`away-sign ${words ? 'on' : ''} ${away || saving === 'waiting' ? 'trouble' : ''}`}
      data-testid="away-sign"
    >
      {words && (away ? <CloudOff size={14} aria-hidden /> : <LoaderCircle size={14} aria-hidden />)}
      {words}
    </div>
  );
}
