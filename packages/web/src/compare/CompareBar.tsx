import type { Zoom } from '../view/layout.ts';

/** How many are shown at once, and in how many columns. */
export const layouts = { 1: 1, 2: 2, 4: 2, 6: 3 } as const;
export type Count = keyof typeof layouts;
const zooms: readonly { zoom: Zoom; words: string; title: string }[] = [
  { zoom: 'fit', words: 'Fit', title: 'All of each (F)' },
  { zoom: 1, words: '100 %', title: 'The files’ own pixels (F)' },
  { zoom: 2, words: '200 %', title: 'Twice as near' },
];

/** How frames lie side by side: how many, how near, which. */
export function CompareBar({
  count,
  zoom,
  before,
  first,
  shown,
  of,
  onCount,
  onZoom,
  onBefore,
  onBest,
  onGo,
}: {
  count: Count;
  zoom: Zoom;
  before: boolean;
  /** the first of those shown, how many are, and of how many */
  first: number;
  shown: number;
  of: number;
  onCount: (n: Count) => void;
  onZoom: (zoom: Zoom) => void;
  onBefore: () => void;
  onBest: () => void;
  onGo: (to: number) => void;
}): React.JSX.Element {
  return (
    <div className="compare-bar" role="group" aria-label="How they are shown">
      {([1, 2, 4, 6] as const).map((n) => (
        <button
          key={n}
          type="button"
          aria-pressed={n === count}
          aria-label={`${n} at once`}
          title={`${n} at once`}
          onClick={() => onCount(n)}
        >
          {n}
        </button>
      ))}
      <span className="compare-gap" />
      {zooms.map((z) => (
        <button key={z.words} type="button" aria-pressed={z.zoom === zoom} title={z.title} onClick={() => onZoom(z.zoom)}>
          {z.words}
        </button>
      ))}
      <button type="button" aria-pressed={before} title="Groundwork only, on all at once (O, held)" onClick={onBefore}>
        Before
      </button>
      <span className="compare-gap" />
      <button type="button" title="Rates it over all that are shown (K)" onClick={onBest}>
        Best of these
      </button>
      <span className="compare-where" role="status">
        {of > count ? `${first + 1} to ${first + shown} of ${of}` : `${of} shown`}
      </span>
      <button type="button" disabled={first === 0} title="Page Up" onClick={() => onGo(first - count)}>
        Earlier
      </button>
      <button type="button" disabled={first + count >= of} title="Page Down" onClick={() => onGo(first + count)}>
        Later
      </button>
    </div>
  );
}
