import {
  autoExposure,
  lightSourceKelvin,
  evAtShare,
  exposureTarget,
  fittedEnds,
  kindsOfLight,
  lightSpread,
  number,
  plainGroundwork,
  sceneParameters,
  temperatureOfBalance,
  type Groundwork,
  type Plate,
  type ReadoutKind,
} from '@dyepot/core';
import { Button } from '@chakra-ui/react';
import { Pipette } from 'lucide-react';
import { useCallback, useMemo } from 'react';
import { messageOf, useBalanceMutation } from '../api.ts';
import { complain, tell } from '../kit/notices.tsx';
import { NumberControl } from '../kit/NumberControl.tsx';
import { Readout } from '../kit/Readout.tsx';
import { useAppDispatch, useAppSelector } from '../store.ts';
import type { Frame } from '../types.ts';
import { DetailPart } from './DetailPart.tsx';
import { GeometryPart, type Lining } from './GeometryPart.tsx';
import { groundAct, type Part } from './groundSlice.ts';
import { LensPart, resetLens, type LensShown } from './LensPart.tsx';
import { ZoneEditor } from './ZoneEditor.tsx';
import type { ReadoutSignal } from '../view/readoutSignal.ts';

const warmth = number('Temperature', 'K', -500, -40, -182, 1, 0),
  asKelvin = { unit: 'K', from: (v: number): number => -1e6 / v, to: (k: number): number => -1e6 / Math.min(25000, Math.max(2000, k)) };
const tint = number('Tint, green to magenta', 'Duv×1000', -50, 50, 0, 0.5, 1),
  exposure = number('Exposure', 'EV', -5, 5, 0, 0.05, 2),
  recovery = number('Highlight recovery', '%', 0, 100, 100, 1, 0);
const black = number('Black end', '×1000 light', 0, 50, 0, 0.5, 1),
  white = number('White end', 'EV over grey', 1, 7, 3.4, 0.05, 2);
const resetOf: Record<Part, Partial<Groundwork>> = {
  light: { balance: plainGroundwork.balance },
  exposure: { exposureEv: 0, recovery: 100 },
  zones: { zones: plainGroundwork.zones },
  ends: { ends: plainGroundwork.ends },
  geometry: { geometry: plainGroundwork.geometry },
  lens: { lens: resetLens },
  detail: { detail: plainGroundwork.detail },
};
export const partNames: Record<Part, [string, string]> = {
  light: ['Light', 'What colour the light was'],
  exposure: ['Exposure', 'How bright the middle is, and what is saved of the lights'],
  zones: ['Zones', 'Five ranges of tone, each by itself'],
  ends: ['Ends', 'Where black and white begin'],
  geometry: ['Crop and angle', 'What is shown, and how upright'],
  lens: ['Lens', 'What the glass did to lines, light and edges'],
  detail: ['Detail', 'Noise and sharpness, judged at 100 %'],
};

export interface PartProps {
  frame: Frame;
  ground: Groundwork;
  small: Plate | null;
  signal: ReadoutSignal;
  picking: boolean;
  onPicking: (on: boolean) => void;
  lining: Lining;
  onLining: (way: Lining) => void;
  onLensShown: (shown: LensShown) => void;
  onMask: (on: boolean) => void;
  picked: string;
  onPicked: (words: string) => void;
  set: (words: string, gesture: string, change: Partial<Groundwork>) => void;
}

function Light({ frame, ground, picking, onPicking, picked, onPicked, set }: PartProps): React.JSX.Element {
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
      <div className="kinds" role="group" aria-label="Kind of light, warm to cool">
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
      </div>
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
        value={Math.round(own.tintDuv * 1e4) / 10}
        onChange={(v, g) => set(`Tint ${v.toFixed(1)}`, `tint-${g}`, { balance: { kind: 'own', kelvin: own.kelvin, tintDuv: v / 1000 } })}
      />
      <div className="row">
        <Button size="xs" variant={picking ? 'solid' : 'outline'} aria-pressed={picking} onClick={() => onPicking(!picking)}>
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
      {picked && (
        <p className="purpose" data-testid="picked">
          {picked}
        </p>
      )}
    </>
  );
}

function ExposurePart({ frame, ground, small, set }: PartProps): React.JSX.Element {
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
      <NumberControl
        parameter={recovery}
        value={ground.recovery}
        onChange={(v, g) => set(`Highlight recovery ${v} %`, `recovery-${g}`, { recovery: v })}
      />
      <p className="purpose">Channels that clipped alone are rebuilt from those that did not; where all are gone, the light is neutral.</p>
    </>
  );
}

function Zones({ frame, ground, small, set }: PartProps): React.JSX.Element {
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

function Ends({ frame, ground, small, set }: PartProps): React.JSX.Element {
  const dispatch = useAppDispatch(),
    clipping = useAppSelector((s) => s.ground.clipping);
  return (
    <>
      <NumberControl
        parameter={black}
        value={Math.round(ground.ends.black * 1e4) / 10}
        onChange={(v, g) => set(`Black end ${v.toFixed(1)}`, `black-${g}`, { ends: { ...ground.ends, black: v / 1000 } })}
      />
      <NumberControl
        parameter={white}
        value={ground.ends.whiteEv}
        onChange={(v, g) => set(`White end ${v.toFixed(2)} EV`, `white-${g}`, { ends: { ...ground.ends, whiteEv: v } })}
      />
      <div className="row">
        <Button
          size="xs"
          variant="outline"
          disabled={!small}
          onClick={() =>
            set('Ends fitted to the histogram', '', { ends: fittedEnds(lightSpread(small!, sceneParameters(frame.profile, ground))) })
          }
        >
          Fit to histogram
        </Button>
      </div>
      <div className="row">
        <span className="dim">Show clipped</span>
        {(['black', 'white'] as const).map((end) => (
          <button
            key={end}
            type="button"
            className={`tool ${clipping[end] ? 'on' : ''}`}
            aria-pressed={clipping[end]}
            onClick={() => dispatch(groundAct.set({ clipping: { ...clipping, [end]: !clipping[end] } }))}
          >
            {end === 'black' ? 'Darks' : 'Lights'}
          </button>
        ))}
      </div>
      <p className="purpose">
        Lights: the channels that clip, in their colour; dark grey where all do. Darks: likewise, white where all do.
      </p>
    </>
  );
}

/** The chosen part's controls under one readout, and what was done to the frame. */
export function GroundTray(props: PartProps): React.JSX.Element {
  const { frame, signal, set } = props,
    dispatch = useAppDispatch(),
    choose = useCallback(
      (k: ReadoutKind): void => {
        dispatch(groundAct.set({ readout: k }));
      },
      [dispatch],
    ),
    { part, readout, docs, before, view } = useAppSelector((s) => s.ground),
    limit = useCallback(
      (byKey: boolean): void => {
        dispatch(
          groundAct.viewSet(
            view.limit
              ? { limit: null, limiting: false }
              : byKey
                ? { limit: { x: 0.375, y: 0.375, width: 0.25, height: 0.25 }, limiting: false }
                : { limiting: !view.limiting },
          ),
        );
      },
      [dispatch, view.limit, view.limiting],
    ),
    doc = docs[frame.id];
  const Controls = {
    light: Light,
    exposure: ExposurePart,
    zones: Zones,
    ends: Ends,
    geometry: GeometryPart,
    lens: LensPart,
    detail: DetailPart,
  }[part];
  return (
    <aside className="tray" aria-label="Tray">
      <Readout
        signal={signal}
        kind={readout}
        onKind={choose}
        limit={view.limit ? 'on' : view.limiting ? 'drawing' : 'off'}
        onLimit={limit}
      />
      <div className="tray-step">
        <header>
          <h2>{partNames[part][0]}</h2>
          <button
            type="button"
            className="text-button"
            title="Put this part back"
            onClick={() => set(`${partNames[part][0]} reset`, '', resetOf[part])}
          >
            Reset
          </button>
        </header>
        <p className="purpose">{partNames[part][1]}</p>
        <Controls {...props} />
        <details className="history">
          <summary>
            Done to this frame <small>{doc?.past.length ?? 0}</small>
          </summary>
          <ol>
            {doc?.past.map((c, i) => (
              <li key={i}>
                <button
                  type="button"
                  title="Go back to before this"
                  onClick={() => {
                    for (let k = doc.past.length; k > i; k--) dispatch(groundAct.undone());
                  }}
                >
                  {c.words}
                </button>
              </li>
            ))}
            {doc && doc.past.length === 0 && <li className="dim">nothing yet</li>}
          </ol>
        </details>
        <details className="history" open={(doc?.snapshots.length ?? 0) > 0}>
          <summary>
            Snapshots <small>{doc?.snapshots.length ?? 0}</small>
          </summary>
          <ol>
            {doc?.snapshots.map((s, i) => (
              <li key={i}>
                <button type="button" title="Go to this snapshot" onClick={() => set(`Snapshot “${s.name}”`, '', s.ground)}>
                  {s.name}
                </button>
                <button
                  type="button"
                  className="text-button"
                  aria-pressed={before === i}
                  onClick={() => dispatch(groundAct.set({ before: before === i ? 'plain' : i }))}
                >
                  {before === i ? 'is before' : 'as before'}
                </button>
                <button type="button" className="text-button" onClick={() => dispatch(groundAct.snapshotRemoved(i))}>
                  remove
                </button>
              </li>
            ))}
          </ol>
          <form
            className="row"
            onSubmit={(e) => {
              e.preventDefault();
              const input = e.currentTarget.elements.namedItem('name') as HTMLInputElement,
                name = input.value.trim() || `Snapshot ${(doc?.snapshots.length ?? 0) + 1}`;
              dispatch(groundAct.snapshotTaken(name.slice(0, 60)));
              input.value = '';
              tell(`${name} taken`);
            }}
          >
            <input name="name" aria-label="Name of the snapshot" placeholder="Name" />
            <Button size="xs" variant="outline" type="submit">
              Take
            </Button>
          </form>
        </details>
      </div>
    </aside>
  );
}
