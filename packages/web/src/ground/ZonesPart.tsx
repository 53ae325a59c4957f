import { lightSpread, plainGroundwork, sceneParameters } from '@dyepot/core';
import { useMemo } from 'react';
import { ZoneEditor } from './ZoneEditor.tsx';
import type { PartProps } from './partProps.ts';

/** Five zones of tone over the frame's own light. */
export function ZonesPart({ frame, ground, small, set }: PartProps): React.JSX.Element {
  const spread = useMemo(
    () => (small ? lightSpread(small, sceneParameters(frame.profile, { ...ground, zones: plainGroundwork.zones })) : null),
    [small, frame.profile, ground.balance, ground.exposureEv],
  );
  return (
    <>
      <ZoneEditor
        spread={spread}
        ev={ground.zones.ev}
        bounds={ground.zones.bounds}
        onChange={(zones, words, gesture) => set(words, gesture, { zones })}
      />
      <p className="purpose">Drag a column up or down, a boundary along. Double click puts a column back.</p>
    </>
  );
}
