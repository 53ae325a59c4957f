import { messageOf } from '../api.ts';
import { complain } from '../kit/notices.tsx';
import { Rove } from '../kit/Rove.tsx';
import { useSetMatchingMutation, type MatchWay, type Parts } from './evennessApi.ts';

const ways: readonly (readonly [MatchWay, string, string])[] = [
  ['statistics', 'What both show', 'Places known again in both, and the light their colours have'],
  ['neutral', 'Near greys', 'Exposure by what both show, the balance by what looks grey in each'],
  ['patch', 'A patch', 'A grey card, a cloth, a skin: pointed at in the anchor, found or pointed at in the others'],
  ['chart', 'The chart', 'A chart of 24 patches, found by itself in each frame that shows one'],
];

const parts: readonly (readonly [keyof Parts, string, string])[] = [
  ['exposure', 'Exposure', 'How bright the anchor is'],
  ['balance', 'Balance', 'The colour of the anchor’s light'],
  ['ends', 'Ends', 'The anchor’s black and white, moved by where this frame’s own darkest and brightest lie'],
  ['contrast', 'Contrast', 'The anchor’s zones, steeper or flatter until the tones reach as far apart as its own'],
];

/** How frames are matched, and in which parts. Nothing changes by it but what is proposed. */
export function MatchWays({ shootId, by, brings }: { shootId: number; by: MatchWay; brings: Parts }): React.JSX.Element {
  const [set] = useSetMatchingMutation(),
    put = (change: { by: MatchWay } | { parts: Parts }): void =>
      void set({ id: shootId, ...change })
        .unwrap()
        .catch((e: unknown) => complain(messageOf(e)));
  return (
    <div className="even-ways">
      <span>Matched by</span>
      <Rove role="radiogroup" aria-label="Frames are matched by" className="even-under">
        {ways.map(([way, words, explained]) => (
          <button key={way} type="button" role="radio" title={explained} aria-checked={by === way} onClick={() => put({ by: way })}>
            {words}
          </button>
        ))}
      </Rove>
      <span>in</span>
      <Rove role="group" aria-label="Parts that are matched" className="even-under">
        {parts.map(([part, words, explained]) => (
          <button
            key={part}
            type="button"
            title={explained}
            aria-pressed={brings[part]}
            // something has to be brought
            disabled={brings[part] && parts.filter(([p]) => brings[p]).length === 1}
            onClick={() => put({ parts: { ...brings, [part]: !brings[part] } })}
          >
            {words}
          </button>
        ))}
      </Rove>
    </div>
  );
}
