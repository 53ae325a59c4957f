import { number } from '@dyepot/core';
import { Button } from '@chakra-ui/react';
import { NumberControl } from '../../kit/NumberControl.tsx';
import { useShortcut } from '../../kit/useShortcut.ts';
import { leastAsked, type DustHand } from './useDust.ts';

const least = number('Stands out by', 'deviations', leastAsked, 15, 5, 0.5, 1);
/** Specks of dust proposed in this frame: gone through one by one, or taken all at once. */
export function DustPart({ dust }: { dust: DustHand }): React.JSX.Element {
  const { proposed, says } = dust;
  useShortcut('t', () => void dust.take());
  useShortcut('r', dust.refuse);
  if (!proposed)
    return (
      <div className="row">
        <Button
          size="xs"
          variant="outline"
          loading={says !== null}
          title="Small round dark soft places where what is round them is clean"
          onClick={() => void dust.find()}
        >
          Find dust
        </Button>
      </div>
    );
  const none = proposed.length === 0;
  return (
    <section className="repair-chosen" aria-label="Dust">
      <h3>Dust</h3>
      <p className="purpose" role="status">
        {says ??
          (none
            ? 'No speck is left that stands out so much.'
            : `${proposed.length} ${proposed.length === 1 ? 'speck' : 'specks'} proposed, ringed on the picture.`)}
      </p>
      <NumberControl parameter={least} value={dust.threshold} onChange={dust.setThreshold} />
      <div className="row">
        <Button
          size="xs"
          variant="outline"
          title="Heal the speck with the cross (T)"
          disabled={none || says !== null}
          onClick={() => void dust.take()}
        >
          Take
        </Button>
        <Button size="xs" variant="outline" title="It is no dust (R)" disabled={none || says !== null} onClick={dust.refuse}>
          Refuse
        </Button>
        <Button
          size="xs"
          variant="ghost"
          title="To the next speck (N); Shift N to the one before"
          disabled={none}
          onClick={() => dust.go(1)}
        >
          Next
        </Button>
      </div>
      <div className="row">
        {says ? (
          <Button size="xs" variant="outline" onClick={dust.stop}>
            Stop
          </Button>
        ) : (
          <Button size="xs" variant="outline" disabled={none} onClick={() => void dust.takeAll()}>
            Take all
          </Button>
        )}
        <button
          type="button"
          className={`tool ${dust.pictured ? 'on' : ''}`}
          aria-pressed={dust.pictured}
          title="A picture made to show dust: how far each place is from what lies round it. The frame is shown as it lies"
          onClick={() => dust.setPictured(!dust.pictured)}
        >
          Show dust
        </button>
        <Button size="xs" variant="ghost" onClick={dust.leave}>
          Done
        </Button>
      </div>
    </section>
  );
}
