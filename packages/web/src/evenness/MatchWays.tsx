import { messageOf } from '../api.ts';
import { complain } from '../kit/notices.tsx';
import { Rove } from '../kit/Rove.tsx';
import { useSetMatchingMutation, type MatchWay } from './evennessApi.ts';

const ways: readonly (readonly [MatchWay, string, string])[] = [
  ['statistics', 'What both show', 'Places known again in both, and the light their colours have'],
  ['neutral', 'Near greys', 'Exposure by what both show, the balance by what looks grey in each'],
  ['patch', 'A patch', 'A grey card, a cloth, a skin: pointed at in the anchor, found or pointed at in the others'],
  ['chart', 'The chart', 'A chart of 24 patches, found by itself in each frame that shows one'],
];

/** How frames are matched. Nothing changes by it but what is proposed. */
export function MatchWays({ shootId, by }: { shootId: number; by: MatchWay }): React.JSX.Element {
  const [set] = useSetMatchingMutation();
  return (
    <div className="even-ways">
      <span>Matched by</span>
      <Rove role="radiogroup" aria-label="Frames are matched by" className="even-under">
        {ways.map(([way, words, explained]) => (
          <button
            key={way}
            type="button"
            role="radio"
            title={explained}
            aria-checked={by === way}
            onClick={() =>
              void set({ id: shootId, by: way })
                .unwrap()
                .catch((e: unknown) => complain(messageOf(e)))
            }
          >
            {words}
          </button>
        ))}
      </Rove>
    </div>
  );
}
