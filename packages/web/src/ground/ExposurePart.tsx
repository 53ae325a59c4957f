import { number, autoExposure, evAtShare, exposureTarget, lightSpread, plainGroundwork, sceneParameters } from '@dyepot/core';
import { Button } from '@chakra-ui/react';
import { useMemo } from 'react';
import { NumberControl } from '../kit/NumberControl.tsx';
import type { PartProps } from './partProps.ts';

const exposure = number('Exposure', 'EV', -5, 5, 0, 0.05, 2),
  recovery = number('Highlight recovery', '%', 0, 100, 100, 1, 0);

/** Exposure, set or fitted to the midtones, and highlights rebuilt. */
export function ExposurePart({ frame, ground, small, set }: PartProps): React.JSX.Element {
  const spread = useMemo(
    () => (small ? lightSpread(small, sceneParameters(frame.profile, { ...ground, zones: plainGroundwork.zones })) : null),
    [small, frame.profile, ground.balance, ground.exposureEv],
  );
  return (
    <>
      <NumberControl
        parameter={exposure}
        value={ground.exposureEv}
        onChange={(v, g) => set(`Exposure ${v < 0 ? '−' : '+'}${Math.abs(v).toFixed(2)} EV`, `ev-${g}`, { exposureEv: v })}
      />
      <div className="row">
        <Button
          size="xs"
          variant="outline"
          disabled={!spread}
          onClick={() => {
            const v = Math.round(Math.min(5, Math.max(-5, ground.exposureEv + autoExposure(spread!))) * 100) / 100;
            set(`Auto exposure ${v < 0 ? '−' : '+'}${Math.abs(v).toFixed(2)} EV`, '', { exposureEv: v });
          }}
        >
          Auto to midtones
        </Button>
        <span className="dim">
          {spread
            ? `midtones ${evAtShare(spread.luminance, 0.5) >= 0 ? '+' : '−'}${Math.abs(evAtShare(spread.luminance, 0.5)).toFixed(1)} EV of ${exposureTarget * 100} %`
            : ''}
        </span>
      </div>
      {frame.finished ? (
        <p className="purpose" role="note">
          A finished {frame.finished} holds nothing beyond its white: there are no highlights to recover, and darkened by exposure they go
          grey.
        </p>
      ) : (
        <>
          <NumberControl
            parameter={recovery}
            value={ground.recovery}
            onChange={(v, g) => set(`Highlight recovery ${v} %`, `recovery-${g}`, { recovery: v })}
          />
          <p className="purpose">
            Channels that clipped alone are rebuilt from those that did not; where all are gone, the light is neutral.
          </p>
        </>
      )}
    </>
  );
}
