import {
  defaultsOf,
  number,
  stepKind,
  stepKinds,
  type ChoiceParameter,
  type KindName,
  type Look,
  type LookStep,
  type ParameterValue,
  type ReadoutKind,
} from '@dyepot/core';
import { limitSwitched } from '../view/limitSwitch.ts';
import { lazy, Suspense, useCallback } from 'react';
import { NumberControl } from '../kit/NumberControl.tsx';
import { Readout } from '../kit/Readout.tsx';
import { useAppDispatch, useAppSelector } from '../store.ts';
import type { ReadoutSignal } from '../view/readoutSignal.ts';
import { act, nameOf } from './benchSlice.ts';
import { Joining } from './Joining.tsx';
import { controls, stepFaces } from '../steps/index.ts';
import type { Frame } from '../types.ts';
import type { PictureTools } from '../steps/fitting.ts';
import { Rove } from '../kit/Rove.tsx';

const SkeinTray = lazy(() => import('./SkeinTray.tsx').then((m) => ({ default: m.SkeinTray })));
const stockKinds = stepKinds.filter((k) => k.lane === 'stock');
const strength = number('Strength', '%', 0, 200, 100, 1, 0);

function StepControls({ step, signal, tools }: { step: LookStep; signal: ReadoutSignal; tools: PictureTools }): React.JSX.Element {
  const dispatch = useAppDispatch(),
    kind = stepKind(step.kind)!,
    params = { ...defaultsOf(kind), ...step.params },
    Control = controls[step.kind as KindName],
    { starts } = stepFaces[step.kind as KindName],
    // a curve has its choice beside its channels
    choices =
      step.kind === 'curve'
        ? []
        : Object.entries(kind.params).filter(
            (e): e is [string, ChoiceParameter] => e[1].type === 'choice' && (e[1].matters?.(params) ?? true),
          );
  const set = (name: string, value: ParameterValue, gesture: string): void => {
    const words = `${kind.name}: ${kind.params[name]?.label ?? name}`;
    dispatch(act.parameterSet({ id: step.id, name, value, words, gesture: gesture && `${step.id}-${name}-${gesture}` }));
  };
  const setAll = (values: Record<string, ParameterValue>, words: string, gesture: string): void => {
    dispatch(act.parametersSet({ id: step.id, values, words, gesture: gesture && `${step.id}-${gesture}` }));
  };
  return (
    <>
      <Suspense fallback={<div className="fitting-waiting" />}>
        <Control params={params} numbers={params as Record<string, number>} signal={signal} tools={tools} onSet={set} onSetAll={setAll} />
      </Suspense>
      {choices.map(([name, p]) => (
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
      ))}
      {starts && (
        <Rove className="starts" role="group" aria-label="Starting points">
          {starts.map((s) => (
            <button key={s.name} type="button" onClick={() => setAll(s.values, s.name, '')}>
              {s.name}
            </button>
          ))}
        </Rove>
      )}
    </>
  );
}

/** The selected step's controls, under one readout. */
export function Tray({
  look,
  side,
  frame,
  selected,
  signal,
  tools,
}: {
  look: Look;
  side: 'look' | 'frame';
  frame: Frame;
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
        dispatch(act.viewSet(limitSwitched({ limit: view.limit, limiting: view.limiting }, byKey)));
      },
      [dispatch, view.limit, view.limiting],
    ),
    skein = look.skeins.find((k) => k.id === selected),
    step = [...look.scene, look.stock, ...look.print].find((s) => s.id === selected) ?? (side === 'look' ? look.stock : null),
    kind = step && stepKind(step.kind)!;
  return (
    <aside className="tray" aria-label="Tray">
      <Readout
        signal={signal}
        kind={readout}
        onKind={choose}
        limit={view.limit ? 'on' : view.limiting ? 'drawing' : 'off'}
        onLimit={limit}
      />
      {(skein || !step || (side === 'frame' && step === look.stock)) && (
        <Suspense>
          <SkeinTray key={skein?.id} skein={skein} frame={frame} signal={signal} />
        </Suspense>
      )}
      {!skein && step && kind && !(side === 'frame' && step === look.stock) && (
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
          {kind.lane === 'stock' && (
            <Rove className="starts" role="radiogroup" aria-label="What turns light into a picture">
              {stockKinds.map((k) => (
                <button
                  key={k.kind}
                  type="button"
                  role="radio"
                  aria-checked={k.kind === step.kind}
                  title={k.purpose}
                  onClick={() => dispatch(act.stockTaken(k.kind))}
                >
                  {k.name}
                </button>
              ))}
            </Rove>
          )}
          <StepControls step={step} signal={signal} tools={tools} />
          {kind.lane !== 'stock' && <Joining step={step} frame={frame} signal={signal} />}
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
      )}
    </aside>
  );
}
