import { defaultsOf, gradeRanges, number, renditions, stepKind, type CurvePoints, type Histogram, type Look, type LookStep, type NumberParameter, type ReadoutKind, type Readouts } from '@dyepot/core';
import { useCallback } from 'react';
import { CurveEditor } from '../kit/CurveEditor.tsx';
import { NumberControl } from '../kit/NumberControl.tsx';
import { Readout } from '../kit/Readout.tsx';
import { useAppDispatch, useAppSelector } from '../store.ts';
import { act, nameOf } from './benchSlice.ts';
import { GradeRing } from './GradeRing.tsx';

const strength = number('Strength', '%', 0, 200, 100, 1, 0);
const starts: Record<string, { name: string; values: Record<string, number> | CurvePoints }[]> = {
  curve: [{ name: 'Lifted blacks', values: [[0, 0.07], [0.3, 0.33], [1, 1]] }, { name: 'Softened whites', values: [[0, 0], [0.7, 0.7], [1, 0.94]] }, { name: 'Firm', values: [[0, 0], [0.25, 0.2], [0.75, 0.81], [1, 1]] }, { name: 'Matte', values: [[0, 0.09], [0.3, 0.3], [0.75, 0.76], [1, 0.95]] }],
  mono: [{ name: '39 / 50 / 11', values: { red: 39, green: 50, blue: 11, amount: 100 } }, { name: 'BT.601', values: { red: 29.9, green: 58.7, blue: 11.4, amount: 100 } }, { name: 'BT.709', values: { red: 21.3, green: 71.5, blue: 7.2, amount: 100 } }, { name: 'Dark sky', values: { red: 85, green: 35, blue: -20, amount: 100 } }],
  neutral: Object.values(renditions).map(({ name, params: { contrast, whiteEv, toe } }) => ({ name, values: { contrast, whiteEv, toe } })),
};

function StepControls({ step, histogram }: { step: LookStep; histogram: Histogram | null }): React.JSX.Element {
  const dispatch = useAppDispatch(), kind = stepKind(step.kind)!, params = { ...defaultsOf(kind), ...step.params };
  const set = (name: string, value: number | CurvePoints, gesture: string): void => { dispatch(act.parameterSet({ id: step.id, name, value, words: `${kind.name}: ${kind.params[name]?.label ?? name}`, gesture: `${step.id}-${name}-${gesture}` })); };
  const numbers = Object.entries(kind.params).filter((e): e is [string, NumberParameter] => e[1].type === 'number' && !(step.kind === 'grade' && gradeRanges.some((r) => e[0].startsWith(r) && !e[0].endsWith('EndEv') && !e[0].endsWith('BeginEv'))));
  return (
    <>
      {step.kind === 'curve' && <CurveEditor points={params['points'] as CurvePoints} histogram={histogram} onChange={(points, gesture) => set('points', points, gesture)} />}
      {step.kind === 'grade' && <GradeRing params={params as Record<string, number>} onSet={(values, gesture) => dispatch(act.parametersSet({ id: step.id, values, words: 'Grade', gesture: `${step.id}-${gesture}` }))} />}
      {starts[step.kind] && <div className="starts" role="group" aria-label="Starting points">{starts[step.kind]!.map((s) => <button key={s.name} type="button" onClick={() => dispatch(act.parametersSet({ id: step.id, values: Array.isArray(s.values) ? { points: s.values } : (s.values as Record<string, number>), words: s.name, gesture: '' }))}>{s.name}</button>)}</div>}
      {numbers.map(([name, p]) => <NumberControl key={name} parameter={p} value={params[name] as number} onChange={(v, gesture) => set(name, v, gesture)} />)}
    </>
  );
}

/** The selected step's controls, under one readout. */
export function Tray({ look, selected, readouts }: { look: Look; selected: string; readouts: Readouts | null }): React.JSX.Element {
  const dispatch = useAppDispatch(), choose = useCallback((k: ReadoutKind): void => { dispatch(act.readoutChosen(k)); }, [dispatch]), readout = useAppSelector((s) => s.bench.readout), view = useAppSelector((s) => s.bench.view), limit = useCallback((): void => { dispatch(act.viewSet(view.limit ? { limit: null, limiting: false } : { limiting: !view.limiting })); }, [dispatch, view.limit, view.limiting]), histogram = readouts?.histogram ?? null, step = [...look.scene, look.stock, ...look.print].find((s) => s.id === selected) ?? look.stock, kind = stepKind(step.kind)!;
  return (
    <aside className="tray" aria-label="Tray">
      <Readout readouts={readouts} kind={readout} onKind={choose} limit={view.limit ? 'on' : view.limiting ? 'drawing' : 'off'} onLimit={limit} />
      <div className="tray-step" key={step.id}>
        <header><h2>{nameOf(step)}</h2>{step.name && <small>{kind.name}</small>}<button type="button" className="text-button" title="Put every control of this step back" onClick={() => dispatch(act.parametersSet({ id: step.id, values: defaultsOf(kind), words: 'Reset', gesture: '' }))}>Reset</button></header>
        <p className="purpose">{kind.purpose}{step.on ? '' : ' — switched off'}</p>
        <StepControls step={step} histogram={histogram} />
        <div className="tray-strength"><NumberControl parameter={strength} value={Math.round(step.strength * 1000) / 10} onChange={(v, gesture) => dispatch(act.strengthSet({ id: step.id, strength: v / 100, gesture: `${step.id}-strength-${gesture}` }))} /></div>
      </div>
    </aside>
  );
}
