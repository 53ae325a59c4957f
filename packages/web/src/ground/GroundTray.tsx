import { groundworkParts, plainGroundwork, type Groundwork, type GroundworkPart, type ReadoutKind } from '@dyepot/core';
import { Button } from '@chakra-ui/react';
import { ColoursPart } from './ColoursPart.tsx';
import { LightPart } from './LightPart.tsx';
import { ZonesPart } from './ZonesPart.tsx';
import { EndsPart } from './EndsPart.tsx';
import { limitSwitched } from '../view/limitSwitch.ts';
import { useCallback } from 'react';
import { tell } from '../kit/notices.tsx';
import { Readout } from '../kit/Readout.tsx';
import { useAppDispatch, useAppSelector } from '../store.ts';
import { DetailPart } from './detail/DetailPart.tsx';
import { GeometryPart } from './GeometryPart.tsx';
import { groundAct, type Part } from './groundSlice.ts';
import { LensPart, resetLens } from './LensPart.tsx';
import { ExposurePart } from './ExposurePart.tsx';
import type { PartProps } from './partProps.ts';
import { RepairPart } from './repair/RepairPart.tsx';
import type { DustHand } from './repair/useDust.ts';
import type { RepairHand } from './repair/useRepairs.ts';
import { StartPanel } from './StartPanel.tsx';

const resetOf: Record<GroundworkPart, Partial<Groundwork>> = {
  light: { balance: plainGroundwork.balance },
  colours: { colours: null },
  exposure: { exposureEv: 0, recovery: 100 },
  zones: { zones: plainGroundwork.zones },
  ends: { ends: plainGroundwork.ends },
  geometry: { geometry: plainGroundwork.geometry },
  lens: { lens: resetLens },
  detail: { detail: plainGroundwork.detail },
};
export const partNames: Record<Part, [string, string]> = {
  repair: ['Repair', 'Spots, wires, dust: on the plate, before anything else'],
  light: ['Light', 'What colour the light was'],
  colours: ['Colours', 'How far the camera’s colours are put right by a chart'],
  exposure: ['Exposure', 'How bright the middle is, and what is saved of the lights'],
  zones: ['Zones', 'Five ranges of tone, each by itself'],
  ends: ['Ends', 'Where black and white begin'],
  geometry: ['Crop and angle', 'What is shown, and how upright'],
  lens: ['Lens', 'What the glass did to lines, light and edges'],
  detail: ['Detail', 'Noise and sharpness, judged at 100 %'],
};
/** The parts that can be given from one frame to another, in their order. */
export const allParts = (Object.keys(groundworkParts) as GroundworkPart[]).map((value) => ({ value, words: partNames[value][0] }));

/** The chosen part's controls under one readout, and what was done to the frame. */
export function GroundTray(props: PartProps & { hand: RepairHand & { dust: DustHand } }): React.JSX.Element {
  const { frame, signal, set, hand } = props,
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
        dispatch(groundAct.viewSet(limitSwitched({ limit: view.limit, limiting: view.limiting }, byKey)));
      },
      [dispatch, view.limit, view.limiting],
    ),
    doc = docs[frame.id];
  const Controls =
    part !== 'repair' &&
    {
      light: LightPart,
      colours: ColoursPart,
      exposure: ExposurePart,
      zones: ZonesPart,
      ends: EndsPart,
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
      {part !== 'repair' && <StartPanel key={frame.id} frame={frame} ground={props.ground} set={set} />}
      <div className="tray-step">
        <header>
          <h2>{partNames[part][0]}</h2>
          <button
            type="button"
            className="text-button"
            title="Put this part back"
            onClick={() => (part === 'repair' ? hand.put([], 'All taken out') : set(`${partNames[part][0]} reset`, '', resetOf[part]))}
          >
            Reset
          </button>
        </header>
        <p className="purpose">{partNames[part][1]}</p>
        {Controls ? <Controls {...props} /> : <RepairPart hand={hand} />}
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
                <button
                  type="button"
                  className="text-button"
                  aria-label={`Take out ${s.name}`}
                  title={`Take out ${s.name}`}
                  onClick={() => {
                    dispatch(groundAct.snapshotRemoved(i));
                    tell(`${s.name} taken out`, () => void dispatch(groundAct.snapshotPutBack({ frameId: frame.id, at: i, snapshot: s })));
                  }}
                >
                  take out
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
