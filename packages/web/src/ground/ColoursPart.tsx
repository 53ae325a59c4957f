import { Button } from '@chakra-ui/react';
import { Link } from 'react-router';
import type { PartProps } from './partProps.ts';

const words = { matrix: 'a matrix', rootPolynomial: 'a root polynomial' } as const;

/** What a chart says of the camera's colours, on this frame. */
export function ColoursPart({ frame, ground, set }: PartProps): React.JSX.Element {
  const { colours } = ground;
  return (
    <>
      {colours ? (
        <>
          <p data-testid="colours">
            Put right by {words[colours.kind]}, from what is seen in <b>{colours.from || 'another picture'}</b>: the patches of the chart
            lay {colours.before.toFixed(2)} ΔE off their published values in the mean, now {colours.after.toFixed(2)}.
          </p>
          <div className="row">
            <Button size="xs" variant="outline" onClick={() => set('Colours as the file says', '', { colours: null })}>
              Take it off this frame
            </Button>
          </div>
        </>
      ) : (
        <p data-testid="colours">As the file’s own profile shows them.</p>
      )}
      <p className="explained">
        A frame that shows a chart of 24 patches tells how far the camera’s colours lie off what is published, and what would put them
        right. That is kept for the shoot in <Link to={`/shoots/${frame.shootId}/evenness`}>Evenness</Link>, matched by the chart. Greys
        stay as they are.
      </p>
    </>
  );
}
