import type { ReadoutKind } from '@dyepot/core';
import { BoxSelect } from 'lucide-react';
import { memo, useEffect, useState } from 'react';
import { useReadouts, type ReadoutSignal } from '../view/readoutSignal.ts';
import { HistogramChart } from './HistogramChart.tsx';
import { Rove } from './Rove.tsx';
import { useFetched } from './useFetched.ts';

const kinds: [ReadoutKind, string, string][] = [
  ['histogram', 'Histogram', 'How much of the picture is how bright'],
  ['waveform', 'Waveform', 'How bright each column of the picture is'],
  ['parade', 'Parade', 'The waveform of red, green and blue beside each other: where they differ, a grey has a tint'],
  ['vectors', 'Vectors', 'Hue as a direction, chroma as distance: where the colours lie'],
  ['hues', 'Hues', 'How much of the picture is in each hue'],
];
/** The others are fetched when the page has settled, or when they are looked at. */
const loadScope = (): Promise<typeof import('./Scopes.tsx').Scope> => import('./Scopes.tsx').then((m) => m.Scope);

/** One readout of the rendered picture, chosen by its tab. */
export const Readout = memo(function Readout({
  signal,
  kind,
  onKind,
  limit,
  onLimit,
}: {
  signal: ReadoutSignal;
  kind: ReadoutKind;
  onKind: (k: ReadoutKind) => void;
  limit: 'off' | 'drawing' | 'on';
  onLimit: (byKey: boolean) => void;
}): React.JSX.Element {
  const [log, setLog] = useState(false),
    readouts = useReadouts(signal),
    [Scope, fetchScope] = useFetched(loadScope);
  // what could not be had is asked for again with the next picture
  useEffect(() => {
    if (kind !== 'histogram' && !Scope) fetchScope();
  }, [kind, readouts]);
  const shown = readouts?.kind === kind ? readouts : null;
  return (
    <div className="readout">
      <Rove className="readout-tabs">
        <div role="tablist" aria-label="Readout">
          {kinds.map(([k, name, what]) => (
            <button key={k} type="button" role="tab" title={what} aria-selected={k === kind} onClick={() => onKind(k)}>
              {name}
            </button>
          ))}
        </div>
        <button
          type="button"
          className="limit-button"
          aria-label={limit === 'on' ? 'Read the whole picture' : 'Read only a part of the picture'}
          title={
            limit === 'on'
              ? 'Read the whole picture again'
              : limit === 'drawing'
                ? 'Draw a rectangle on the picture'
                : 'Read only a part: draw a rectangle on the picture'
          }
          aria-pressed={limit !== 'off'}
          onClick={(e) => onLimit(e.detail === 0)}
        >
          <BoxSelect size={13} />
        </button>
      </Rove>
      {kind === 'histogram' && <HistogramChart histogram={readouts?.histogram ?? null} log={log} onLog={setLog} />}
      {kind !== 'histogram' && shown && Scope && <Scope readouts={shown} />}
    </div>
  );
});
