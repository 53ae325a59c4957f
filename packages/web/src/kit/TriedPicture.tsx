import type { Look } from '@dyepot/core';
import { useEffect, useRef, useState } from 'react';
import { letGo } from './letGo.ts';
import { leanText } from '../saving/keptDocuments.ts';

/** A frame's picture under a look that need not be on the shelf; the last one stays until the next is there. */
export function TriedPicture({
  frame,
  look,
  edge = 720,
  alt,
}: {
  frame: number;
  look: Look;
  edge?: 360 | 720 | 1080;
  alt: string;
}): React.JSX.Element {
  const [shown, setShown] = useState<{ url: string } | { wrong: string } | null>(null),
    kept = useRef('');
  const keep = (url: string): void => {
    if (kept.current !== '') letGo(kept.current);
    kept.current = url;
  };
  useEffect(() => () => keep(''), []);
  useEffect(() => {
    const away = new AbortController();
    const ask = async (): Promise<void> => {
      const answer = await fetch(`/api/frames/${frame}/picture`, {
        method: 'POST',
        headers: { 'Content-Type': 'application/json' },
        body: leanText({ look, edge }),
        signal: away.signal,
      });
      if (!answer.ok) throw new Error(((await answer.json().catch(() => ({}))) as { message?: string }).message ?? 'it cannot be shown');
      const url = URL.createObjectURL(await answer.blob());
      keep(url);
      setShown({ url });
    };
    // while a hand moves, not every place it passes
    const timer = setTimeout(() => {
      ask().catch((e: unknown) => {
        if (!away.signal.aborted) setShown({ wrong: e instanceof Error ? e.message : 'it cannot be shown' });
      });
    }, 90);
    return () => {
      clearTimeout(timer);
      away.abort();
    };
  }, [frame, look, edge]);
  return (
    <div className={`picture ${shown && 'url' in shown ? 'ready' : 'waiting'}`}>
      {shown && 'url' in shown && <img src={shown.url} alt={alt} draggable={false} />}
      {shown && 'wrong' in shown && <span>{shown.wrong}</span>}
    </div>
  );
}
