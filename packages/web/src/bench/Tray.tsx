import {
  defaultsOf,
  number,
  renditions,
  stepKind,
  type BandHandle,
  type ChoiceParameter,
  type CurvePoints,
  type Look,
  type LookStep,
  type NumberParameter,
  type ParameterValue,
  type ReadoutKind,
  type StoredTable,
} from '@dyepot/core';
import { useCallback } from 'react';
import { NumberControl } from '../kit/NumberControl.tsx';
import { Readout } from '../kit/Readout.tsx';
import { useAppDispatch, useAppSelector } from '../store.ts';
import type { ReadoutSignal } from '../view/readoutSignal.ts';
import { act, nameOf } from './benchSlice.ts';
import { CurveControl } from './CurveControl.tsx';
import { GradeRing } from './GradeRing.tsx';
import { CdlGrid, GelControl, MixerGrid } from './GridControls.tsx';
import { HueBandEditor, type BandCurve } from './HueBandEditor.tsx';
import type { Incoming } from './incoming.ts';
import { RangeControl } from './RangeControl.tsx';
import { TableControl } from './TableControl.tsx';

const strength = number('Strength', '%', 0, 200, 100, 1, 0);
const starts: Record<string, { name: string; values: Record<string, number> | CurvePoints }[]> = {
  curve: [
    {
      name: 'Lifted blacks',
      values: [
        [0, 0.07],
        [0.3, 0.33],
        [1, 1],
      ],
    },
    {
      name: 'Softened whites',
      values: [
        [0, 0],
        [0.7, 0.7],
        [1, 0.94],
      ],
    },
    {
      name: 'Firm',
      values: [
        [0, 0],
        [0.25, 0.2],
        [0.75, 0.81],
        [1, 1],
      ],
    },
    {
      name: 'Matte',
      values: [
        [0, 0.09],
        [0.3, 0.3],
        [0.75, 0.76],
        [1, 0.95],
      ],
    },
  ],
  mono: [
    { name: '39 / 50 / 11', values: { red: 39, green: 50, blue: 11, amount: 100 } },
    { name: 'BT.601', values: { red: 29.9, green: 58.7, blue: 11.4, amount: 100 } },
    { name: 'BT.709', values: { red: 21.3, green: 71.5, blue: 7.2, amount: 100 } },
    { name: 'Dark sky', values: { red: 85, green: 35, blue: -20, amount: 100 } },
  ],
  neutral: Object.values(renditions).map(({ name, params: { contrast, whiteEv, toe } }) => ({ name, values: { contrast, whiteEv, toe } })),
};

/** What the hand does on the picture for the selected step. */
export type PictureTool = 'off' | 'range' | 'point' | 'pull';
export interface PictureTools {
  tool: PictureTool;
  onTool: (t: PictureTool) => void;
  /** side of the square a colour is picked from */ size: number;
  onSize: (n: number) => void;
  channel: string;
  onChannel: (c: string) => void;
  band: BandCurve;
  onBand: (c: BandCurve) => void;
  onShow: (on: boolean) => void;
  /** the lead as it comes to the step; null where that is not known */ incoming: () => Promise<Incoming | null>;
}

function StepControls({ step, signal, tools }: { step: LookStep; signal: ReadoutSignal; tools: PictureTools }): React.JSX.Element {
  const dispatch = useAppDispatch(),
    kind = stepKind(step.kind)!,
    params = { ...defaultsOf(kind), ...step.params };
  const set = (name: string, value: ParameterValue, gesture: string): void => {
    dispatch(
      act.parameterSet({
        id: step.id,
        name,
        value,
        words: `${kind.name}: ${kind.params[name]?.label ?? name}`,
        gesture: gesture && `${step.id}-${name}-${gesture}`,
      }),
    );
  };
  const setAll = (values: Record<string, ParameterValue>, words: string, gesture: string): void => {
      dispatch(act.parametersSet({ id: step.id, values, words, gesture: gesture && `${step.id}-${gesture}` }));
    },
    numeric = params as Record<string, number>,
    toggle =
      (t: PictureTool) =>
      (on: boolean): void =>
        tools.onTool(on ? t : 'off');
  const fitting = (): React.JSX.Element | null => {
    switch (step.kind) {
      case 'curve':
        return (
          <CurveControl
            params={params}
            signal={signal}
            incoming={tools.incoming}
            picking={tools.tool === 'point'}
            onPicking={toggle('point')}
            channel={tools.channel}
            onChannel={tools.onChannel}
            onSet={set}
          />
        );
      case 'grade':
        return <GradeRing params={numeric} signal={signal} onSet={(values, gesture) => setAll(values, 'Grade', gesture)} />;
      case 'hueBands':
        return (
          <>
            <HueBandEditor
              values={params as Record<BandCurve, readonly BandHandle[]>}
              signal={signal}
              curve={tools.band}
              onCurve={tools.onBand}
              pulling={tools.tool === 'pull'}
              onPulling={toggle('pull')}
              onChange={(c, handles, g) => set(c, handles, g)}
            />
            <NumberControl
              parameter={kind.params['guard'] as NumberParameter}
              value={numeric['guard']!}
              onChange={(v, g) => set('guard', v, g)}
            />
          </>
        );
      case 'colourRange':
        return (
          <RangeControl
            params={numeric}
            signal={signal}
            picking={tools.tool === 'range'}
            size={tools.size}
            onSize={tools.onSize}
            onPicking={toggle('range')}
            onShow={tools.onShow}
            onSet={set}
          />
        );
      case 'mixer':
        return (
          <>
            <MixerGrid params={numeric} onSet={set} />
            {choices}
          </>
        );
      case 'cdl':
        return <CdlGrid params={numeric} onSet={set} onSetAll={(values, g) => setAll(values, 'CDL', g)} />;
      case 'gel':
        return (
          <>
            <GelControl params={numeric} onSet={set} />
            {choices}
          </>
        );
      case 'tablePrint':
      case 'tableStock':
        return (
          <>
            <TableControl table={params['table'] as StoredTable | null} onTable={(table, words) => setAll({ table }, words, '')} />
            {choices}
          </>
        );
      default:
        return null;
    }
  };
  const choices = Object.entries(kind.params)
    .filter((e): e is [string, ChoiceParameter] => e[1].type === 'choice')
    .map(([name, p]) => (
      <label key={name} className="inline choice">
        {p.label.toLowerCase()}{' '}
        <select aria-label={p.label} value={params[name] as string} onChange={(e) => set(name, e.target.value, '')}>
          {p.options.map(([value, words]) => (
            <option key={value} value={value}>
              {words}
            </option>
          ))}
        </select>
      </label>
    ));
  const own = fitting(),
    numbers = Object.entries(kind.params).filter((e): e is [string, NumberParameter] => e[1].type === 'number');
  return (
    <>
      {own}
      {starts[step.kind] && (
        <div className="starts" role="group" aria-label="Starting points">
          {starts[step.kind]!.map((s) => (
            <button
              key={s.name}
              type="button"
              onClick={() => setAll(Array.isArray(s.values) ? { points: s.values } : (s.values as Record<string, number>), s.name, '')}
            >
              {s.name}
            </button>
          ))}
        </div>
      )}
      {!own &&
        numbers.map(([name, p]) => (
          <NumberControl key={name} parameter={p} value={numeric[name]!} onChange={(v, gesture) => set(name, v, gesture)} />
        ))}
      {!own && choices}
    </>
  );
}

/** The selected step's controls, under one readout. */
export function Tray({
  look,
  selected,
  signal,
  tools,
}: {
  look: Look;
  selected: string;
  signal: ReadoutSignal;
  tools: PictureTools;
}): React.JSX.Element {
  const dispatch = useAppDispatch(),
    choose = useCallback(
      (k: ReadoutKind): void => {
        dispatch(act.readoutChosen(k));
      },
      [dispatch],
    ),
    readout = useAppSelector((s) => s.bench.readout),
    view = useAppSelector((s) => s.bench.view),
    limit = useCallback(
      (byKey: boolean): void => {
        dispatch(
          act.viewSet(
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
    step = [...look.scene, look.stock, ...look.print].find((s) => s.id === selected) ?? look.stock,
    kind = stepKind(step.kind)!;
  return (
    <aside className="tray" aria-label="Tray">
      <Readout
        signal={signal}
        kind={readout}
        onKind={choose}
        limit={view.limit ? 'on' : view.limiting ? 'drawing' : 'off'}
        onLimit={limit}
      />
      <div className="tray-step" key={step.id}>
        <header>
          <h2>{nameOf(step)}</h2>
          {step.name && <small>{kind.name}</small>}
          <button
            type="button"
            className="text-button"
            title="Put every control of this step back"
            onClick={() => dispatch(act.parametersSet({ id: step.id, values: defaultsOf(kind), words: 'Reset', gesture: '' }))}
          >
            Reset
          </button>
        </header>
        <p className="purpose">
          {kind.purpose}
          {step.on ? '' : ' — switched off'}
        </p>
        <StepControls step={step} signal={signal} tools={tools} />
        <div className="tray-strength">
          <NumberControl
            parameter={strength}
            value={Math.round(step.strength * 1000) / 10}
            onChange={(v, gesture) =>
              dispatch(act.strengthSet({ id: step.id, strength: v / 100, gesture: `${step.id}-strength-${gesture}` }))
            }
          />
        </div>
      </div>
    </aside>
  );
}
