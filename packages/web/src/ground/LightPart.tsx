import { lightSourceKelvin, kindsOfLight, number, plainGroundwork, temperatureOfBalance } from '@dyepot/core';
import { Button } from '@chakra-ui/react';
import { Pipette } from 'lucide-react';
import { messageOf } from '../api.ts';
import { useBalanceMutation } from './groundApi.ts';
import { complain } from '../kit/notices.tsx';
import { NumberControl } from '../kit/NumberControl.tsx';
import { useAppDispatch, useAppSelector } from '../store.ts';
import { groundAct } from './groundSlice.ts';
import type { PartProps } from './partProps.ts';
import { Rove } from '../kit/Rove.tsx';

const warmth = number('Temperature', 'K', -500, -40, -182, 1, 0),
  asKelvin = { unit: 'K', from: (v: number): number => -1e6 / v, to: (k: number): number => -1e6 / Math.min(25000, Math.max(2000, k)) };
/** What answers the light's own Duv, so that it runs as tint does in a look: to the right the picture turns greener. */
const tint = number('Tint, magenta to green', 'Duv×1000', -50, 50, 0, 0.5, 1);

/** The light: by kind, by kelvin and tint, by something neutral, or by itself. */
export function LightPart({ frame, ground, picking, onPicking, picked, onPicked, set }: PartProps): React.JSX.Element {
  const dispatch = useAppDispatch(),
    size = useAppSelector((s) => s.ground.pickSize),
    [ask, asking] = useBalanceMutation(),
    own = temperatureOfBalance(ground.balance, frame.profile),
    { balance } = ground,
    tagged = lightSourceKelvin[frame.lightSource];
  const auto = async (): Promise<void> => {
    try {
      const found = await ask({ id: frame.id, at: null, groundwork: ground }).unwrap();
      set(`Auto balance ${Math.round(found.kelvin)} K`, '', { balance: { kind: 'own', kelvin: found.kelvin, tintDuv: found.tintDuv } });
      onPicked(`Auto found ${Math.round(found.kelvin)} K`);
    } catch (e) {
      complain(messageOf(e));
    }
  };
  return (
    <>
      <Rove className="kinds" role="group" aria-label="Kind of light, warm to cool">
        <button
          type="button"
          aria-pressed={balance.kind === 'asShot'}
          onClick={() => set('As shot', '', { balance: plainGroundwork.balance })}
        >
          As shot
        </button>
        {kindsOfLight.map((k) => (
          <button
            key={k.kind}
            type="button"
            aria-pressed={balance.kind === k.kind}
            onClick={() => set(k.name, '', { balance: { ...balance, kind: k.kind } })}
          >
            {k.name}
          </button>
        ))}
        {tagged && (
          <button
            type="button"
            aria-pressed={balance.kind === 'camera'}
            title="The light the camera wrote into the file (Exif LightSource)"
            onClick={() => set('As the camera’s tag says', '', { balance: { kind: 'camera', kelvin: tagged, tintDuv: 0 } })}
          >
            Tag, {tagged} K
          </button>
        )}
        <button type="button" disabled={asking.isLoading} onClick={() => void auto()}>
          Auto
        </button>
      </Rove>
      <NumberControl
        parameter={warmth}
        as={asKelvin}
        value={-1e6 / own.kelvin}
        onChange={(v, g) =>
          set(`Temperature ${Math.round(-1e6 / v)} K`, `kelvin-${g}`, {
            balance: { kind: 'own', kelvin: Math.min(25000, Math.max(2000, -1e6 / v)), tintDuv: own.tintDuv },
          })
        }
      />
      <NumberControl
        parameter={tint}
        value={-Math.round(own.tintDuv * 1e4) / 10 || 0}
        onChange={(v, g) => set(`Tint ${v.toFixed(1)}`, `tint-${g}`, { balance: { kind: 'own', kelvin: own.kelvin, tintDuv: -v / 1000 } })}
      />
      <div className="row">
        <Button
          size="xs"
          variant={picking ? 'solid' : 'outline'}
          title="Pick something neutral in the picture (P)"
          aria-pressed={picking}
          onClick={() => onPicking(!picking)}
        >
          <Pipette size={13} /> Pick something neutral
        </Button>
        <label className="inline">
          sample{' '}
          <select aria-label="Sample size" value={size} onChange={(e) => dispatch(groundAct.set({ pickSize: Number(e.target.value) }))}>
            {[3, 11, 24, 51, 101].map((s) => (
              <option key={s} value={s}>
                {s} px
              </option>
            ))}
          </select>
        </label>
      </div>
      <p className="explained">
        Kelvin names the light’s colour; the track runs in mired (1 000 000 / K), in which equal steps look equal. Tint answers how far the
        light lies off daylight’s line (Duv): −2 for a light 2 greener than it. To the right the picture turns greener.
      </p>
      {frame.finished && (
        <p className="purpose" role="note">
          A finished {frame.finished}: its light is read back from the picture, and which light it was taken in is not known. 6504 K leaves
          it as it is; warmer and cooler are meant from there.
        </p>
      )}
      {picked && (
        <p className="purpose" data-testid="picked">
          {picked}
        </p>
      )}
    </>
  );
}
