import { autoExposure, evAtShare, exposureTarget, fittedEnds, kindsOfLight, lightSpread, number, plainGroundwork, ratios, sceneParameters, temperatureOfBalance, type Detail, type Geometry, type Groundwork, type Plate, type ReadoutKind, type Readouts } from '@dyepot/core';
import { Button } from '@chakra-ui/react';
import { FlipHorizontal2, FlipVertical2, Pipette, RotateCcw, RotateCw, Ruler } from 'lucide-react';
import { useCallback, useMemo } from 'react';
import { messageOf, useBalanceMutation } from '../api.ts';
import { complain, tell } from '../kit/notices.tsx';
import { NumberControl } from '../kit/NumberControl.tsx';
import { Readout } from '../kit/Readout.tsx';
import { useAppDispatch, useAppSelector } from '../store.ts';
import type { Frame } from '../types.ts';
import { cropTo, ratioOf } from './CropOverlay.tsx';
import { groundAct, type GroundState, type Part } from './groundSlice.ts';
import { ZoneEditor } from './ZoneEditor.tsx';

const warmth = number('Temperature', 'K', -500, -40, -182, 1, 0), asKelvin = { unit: 'K', from: (v: number): number => -1e6 / v, to: (k: number): number => -1e6 / Math.min(25000, Math.max(2000, k)) };
const tint = number('Tint, magenta to green', 'Duv×1000', -50, 50, 0, 0.5, 1), exposure = number('Exposure', 'EV', -5, 5, 0, 0.05, 2), recovery = number('Highlight recovery', '%', 0, 100, 100, 1, 0);
const black = number('Black end', '×1000 light', 0, 50, 0, 0.5, 1), white = number('White end', 'EV over grey', 1, 7, 3.4, 0.05, 2);
const straighten = number('Straighten', '°', -45, 45, 0, 0.1, 1), vertical = number('Verticals', '', -100, 100, 0, 1, 0), horizontal = number('Horizontals', '', -100, 100, 0, 1, 0);
const luminanceNoise = number('Luminance noise', '%', 0, 100, 0, 1, 0), colourNoise = number('Colour noise', '%', 0, 100, 0, 1, 0), sharpen = number('Sharpening', '%', 0, 150, 0, 1, 0), radius = number('Radius', 'px', 0.5, 3, 1, 0.1, 1), fine = number('Fine detail', '%', 0, 100, 50, 1, 0), edgesOnly = number('Edges only', '%', 0, 100, 20, 1, 0);
const resetOf: Record<Part, Partial<Groundwork>> = { light: { balance: plainGroundwork.balance }, exposure: { exposureEv: 0, recovery: 100 }, zones: { zones: plainGroundwork.zones }, ends: { ends: plainGroundwork.ends }, geometry: { geometry: plainGroundwork.geometry }, detail: { detail: plainGroundwork.detail } };
export const partNames: Record<Part, [string, string]> = { light: ['Light', 'What colour the light was'], exposure: ['Exposure', 'How bright the middle is, and what is saved of the lights'], zones: ['Zones', 'Five ranges of tone, each by itself'], ends: ['Ends', 'Where black and white begin'], geometry: ['Crop and angle', 'What is shown, and how upright'], detail: ['Detail', 'Noise and sharpness, judged at 100 %'] };

interface Props { frame: Frame; ground: Groundwork; small: Plate | null; readouts: Readouts | null; picking: boolean; onPicking: (on: boolean) => void; lining: boolean; onLining: (on: boolean) => void; picked: string; onPicked: (words: string) => void; set: (words: string, gesture: string, change: Partial<Groundwork>) => void }

function Light({ frame, ground, picking, onPicking, picked, onPicked, set }: Props): React.JSX.Element {
  const dispatch = useAppDispatch(), size = useAppSelector((s) => s.ground.pickSize), [ask, asking] = useBalanceMutation(), own = temperatureOfBalance(ground.balance, frame.profile), { balance } = ground;
  const auto = async (): Promise<void> => {
    try { const found = await ask({ id: frame.id, at: null, groundwork: ground }).unwrap(); set(`Auto balance ${Math.round(found.kelvin)} K`, '', { balance: { kind: 'own', kelvin: found.kelvin, tintDuv: found.tintDuv } }); onPicked(`Auto found ${Math.round(found.kelvin)} K`); } catch (e) { complain(messageOf(e)); }
  };
  return (
    <>
      <div className="kinds" role="group" aria-label="Kind of light, warm to cool">
        <button type="button" aria-pressed={balance.kind === 'asShot'} onClick={() => set('As shot', '', { balance: plainGroundwork.balance })}>As shot</button>
        {kindsOfLight.map((k) => <button key={k.kind} type="button" aria-pressed={balance.kind === k.kind} onClick={() => set(k.name, '', { balance: { ...balance, kind: k.kind } })}>{k.name}</button>)}
        <button type="button" disabled={asking.isLoading} onClick={() => void auto()}>Auto</button>
      </div>
      <NumberControl parameter={warmth} as={asKelvin} value={-1e6 / own.kelvin} onChange={(v, g) => set(`Temperature ${Math.round(-1e6 / v)} K`, `kelvin-${g}`, { balance: { kind: 'own', kelvin: Math.min(25000, Math.max(2000, -1e6 / v)), tintDuv: own.tintDuv } })} />
      <NumberControl parameter={tint} value={Math.round(own.tintDuv * 1e4) / 10} onChange={(v, g) => set(`Tint ${v.toFixed(1)}`, `tint-${g}`, { balance: { kind: 'own', kelvin: own.kelvin, tintDuv: v / 1000 } })} />
      <div className="row">
        <Button size="xs" variant={picking ? 'solid' : 'outline'} aria-pressed={picking} onClick={() => onPicking(!picking)}><Pipette size={13} /> Pick something neutral</Button>
        <label className="inline">sample <select aria-label="Sample size" value={size} onChange={(e) => dispatch(groundAct.set({ pickSize: Number(e.target.value) }))}>{[3, 11, 24, 51, 101].map((s) => <option key={s} value={s}>{s} px</option>)}</select></label>
      </div>
      {picked && <p className="purpose" data-testid="picked">{picked}</p>}
    </>
  );
}

function ExposurePart({ frame, ground, small, set }: Props): React.JSX.Element {
  const spread = useMemo(() => (small ? lightSpread(small, sceneParameters(frame.profile, { ...ground, zones: plainGroundwork.zones })) : null), [small, frame.profile, ground.balance, ground.exposureEv]);
  return (
    <>
      <NumberControl parameter={exposure} value={ground.exposureEv} onChange={(v, g) => set(`Exposure ${v < 0 ? '−' : '+'}${Math.abs(v).toFixed(2)} EV`, `ev-${g}`, { exposureEv: v })} />
      <div className="row"><Button size="xs" variant="outline" disabled={!spread} onClick={() => { const v = Math.round(Math.min(5, Math.max(-5, ground.exposureEv + autoExposure(spread!))) * 100) / 100; set(`Auto exposure ${v < 0 ? '−' : '+'}${Math.abs(v).toFixed(2)} EV`, '', { exposureEv: v }); }}>Auto to midtones</Button><span className="dim">{spread ? `midtones ${evAtShare(spread.luminance, 0.5) >= 0 ? '+' : '−'}${Math.abs(evAtShare(spread.luminance, 0.5)).toFixed(1)} EV of ${exposureTarget * 100} %` : ''}</span></div>
      <NumberControl parameter={recovery} value={ground.recovery} onChange={(v, g) => set(`Highlight recovery ${v} %`, `recovery-${g}`, { recovery: v })} />
      <p className="purpose">Channels that clipped alone are rebuilt from those that did not; where all are gone, the light is neutral.</p>
    </>
  );
}

function Zones({ frame, ground, small, set }: Props): React.JSX.Element {
  const spread = useMemo(() => (small ? lightSpread(small, sceneParameters(frame.profile, { ...ground, zones: plainGroundwork.zones })) : null), [small, frame.profile, ground.balance, ground.exposureEv]);
  return <><ZoneEditor spread={spread} ev={ground.zones.ev} bounds={ground.zones.bounds} onChange={(zones, words, gesture) => set(words, gesture, { zones })} /><p className="purpose">Drag a column up or down, a boundary along. Double click puts a column back.</p></>;
}

function Ends({ frame, ground, small, set }: Props): React.JSX.Element {
  const dispatch = useAppDispatch(), clipping = useAppSelector((s) => s.ground.clipping);
  return (
    <>
      <NumberControl parameter={black} value={Math.round(ground.ends.black * 1e4) / 10} onChange={(v, g) => set(`Black end ${v.toFixed(1)}`, `black-${g}`, { ends: { ...ground.ends, black: v / 1000 } })} />
      <NumberControl parameter={white} value={ground.ends.whiteEv} onChange={(v, g) => set(`White end ${v.toFixed(2)} EV`, `white-${g}`, { ends: { ...ground.ends, whiteEv: v } })} />
      <div className="row"><Button size="xs" variant="outline" disabled={!small} onClick={() => set('Ends fitted to the histogram', '', { ends: fittedEnds(lightSpread(small!, sceneParameters(frame.profile, ground))) })}>Fit to histogram</Button></div>
      <div className="row"><span className="dim">Show clipped</span>{(['black', 'white'] as const).map((end) => <button key={end} type="button" className={`tool ${clipping[end] ? 'on' : ''}`} aria-pressed={clipping[end]} onClick={() => dispatch(groundAct.set({ clipping: { ...clipping, [end]: !clipping[end] } }))}>{end === 'black' ? 'Darks' : 'Lights'}</button>)}</div>
      <p className="purpose">Lights: the channels that clip, in their colour; dark grey where all do. Darks: likewise, white where all do.</p>
    </>
  );
}

function GeometryPart({ frame, ground, lining, onLining, set }: Props): React.JSX.Element {
  const dispatch = useAppDispatch(), guides = useAppSelector((s) => s.ground.guides), { geometry } = ground, turned = geometry.quarterTurns % 2 === 1, aspect = turned ? frame.height / frame.width : frame.width / frame.height, upright = geometry.crop.width * aspect < geometry.crop.height;
  const to = (words: string, gesture: string, change: Partial<Geometry>): void => set(words, gesture, { geometry: { ...geometry, ...change } });
  const turn = (by: 1 | 3): void => { const { x, y, width, height } = geometry.crop; to('Quarter turn', '', { quarterTurns: ((geometry.quarterTurns + by) % 4) as 0, crop: by === 1 ? { x: 1 - y - height, y: x, width: height, height: width } : { x: y, y: 1 - x - width, width: height, height: width } }); };
  return (
    <>
      <div className="row"><label className="inline">ratio <select aria-label="Ratio" value={geometry.ratio} onChange={(e) => { const ratio = e.target.value as Geometry['ratio']; to(`Ratio ${ratio}`, '', { ratio, crop: cropTo(ratioOf(ratio, upright), geometry.crop, aspect) }); }}>{ratios.map((r) => <option key={r}>{r}</option>)}</select></label>
        <button type="button" className="tool" disabled={geometry.ratio === 'free'} onClick={() => to('Ratio the other way up', '', { crop: cropTo(ratioOf(geometry.ratio, !upright), geometry.crop, aspect) })}>other way up</button>
        <label className="inline">guides <select aria-label="Guides" value={guides} onChange={(e) => dispatch(groundAct.set({ guides: e.target.value as GroundState['guides'] }))}>{['none', 'thirds', 'diagonals', 'golden'].map((g) => <option key={g}>{g}</option>)}</select></label></div>
      <div className="row">
        <button type="button" className="tool" aria-label="Turn left" onClick={() => turn(3)}><RotateCcw size={14} /></button><button type="button" className="tool" aria-label="Turn right" onClick={() => turn(1)}><RotateCw size={14} /></button>
        <button type="button" className="tool" aria-label="Flip left to right" aria-pressed={geometry.flipX} onClick={() => to('Flip', '', { flipX: !geometry.flipX, crop: { ...geometry.crop, x: 1 - geometry.crop.x - geometry.crop.width } })}><FlipHorizontal2 size={14} /></button><button type="button" className="tool" aria-label="Flip top to bottom" aria-pressed={geometry.flipY} onClick={() => to('Flip', '', { flipY: !geometry.flipY, crop: { ...geometry.crop, y: 1 - geometry.crop.y - geometry.crop.height } })}><FlipVertical2 size={14} /></button>
        <button type="button" className={`tool ${lining ? 'on' : ''}`} aria-pressed={lining} onClick={() => onLining(!lining)}><Ruler size={14} /> Draw a level line</button>
      </div>
      <NumberControl parameter={straighten} value={geometry.straighten} onChange={(v, g) => to(`Straighten ${v.toFixed(1)}°`, `straighten-${g}`, { straighten: v })} />
      <NumberControl parameter={vertical} value={geometry.vertical} onChange={(v, g) => to(`Verticals ${v}`, `vertical-${g}`, { vertical: v })} />
      <NumberControl parameter={horizontal} value={geometry.horizontal} onChange={(v, g) => to(`Horizontals ${v}`, `horizontal-${g}`, { horizontal: v })} />
    </>
  );
}

function DetailPart({ frame, ground, set }: Props): React.JSX.Element {
  const { detail } = ground, to = (words: string, gesture: string, change: Partial<Detail>): void => set(words, gesture, { detail: { ...detail, ...change } });
  const controls = [[luminanceNoise, 'luminanceNoise'], [colourNoise, 'colourNoise'], [sharpen, 'sharpen'], [radius, 'radiusPx'], [fine, 'fine'], [edgesOnly, 'edgesOnly']] as const;
  return (
    <>
      {controls.map(([p, name]) => <NumberControl key={name} parameter={p} value={detail[name]} onChange={(v, g) => to(`${p.label} ${v} ${p.unit}`, `${name}-${g}`, { [name]: v })} />)}
      <p className="purpose">Noise measured in this frame: {(Math.sqrt(frame.noise.slope * 0.18 + frame.noise.floor) / 0.0018).toFixed(1)} % of middle grey, at ISO {frame.exif.iso}. The loupe shows the liveliest place at 100 %.</p>
    </>
  );
}

/** The chosen part's controls under one readout, and what was done to the frame. */
export function GroundTray(props: Props): React.JSX.Element {
  const { frame, readouts, set } = props, dispatch = useAppDispatch(), choose = useCallback((k: ReadoutKind): void => { dispatch(groundAct.set({ readout: k })); }, [dispatch]), { part, readout, docs, before } = useAppSelector((s) => s.ground), doc = docs[frame.id];
  const Controls = { light: Light, exposure: ExposurePart, zones: Zones, ends: Ends, geometry: GeometryPart, detail: DetailPart }[part];
  return (
    <aside className="tray" aria-label="Tray">
      <Readout readouts={readouts} kind={readout} onKind={choose} />
      <div className="tray-step">
        <header><h2>{partNames[part][0]}</h2><button type="button" className="text-button" title="Put this part back" onClick={() => set(`${partNames[part][0]} reset`, '', resetOf[part])}>Reset</button></header>
        <p className="purpose">{partNames[part][1]}</p>
        <Controls {...props} />
        <details className="history"><summary>Done to this frame <small>{doc?.past.length ?? 0}</small></summary>
          <ol>{doc?.past.map((c, i) => <li key={i}><button type="button" title="Go back to before this" onClick={() => { for (let k = doc.past.length; k > i; k--) dispatch(groundAct.undone()); }}>{c.words}</button></li>)}{doc && doc.past.length === 0 && <li className="dim">nothing yet</li>}</ol>
        </details>
        <details className="history" open={(doc?.snapshots.length ?? 0) > 0}><summary>Snapshots <small>{doc?.snapshots.length ?? 0}</small></summary>
          <ol>{doc?.snapshots.map((s, i) => <li key={i}><button type="button" title="Go to this snapshot" onClick={() => set(`Snapshot “${s.name}”`, '', s.ground)}>{s.name}</button><button type="button" className="text-button" aria-pressed={before === i} onClick={() => dispatch(groundAct.set({ before: before === i ? 'plain' : i }))}>{before === i ? 'is before' : 'as before'}</button><button type="button" className="text-button" onClick={() => dispatch(groundAct.snapshotRemoved(i))}>remove</button></li>)}</ol>
          <form className="row" onSubmit={(e) => { e.preventDefault(); const input = e.currentTarget.elements.namedItem('name') as HTMLInputElement, name = input.value.trim() || `Snapshot ${(doc?.snapshots.length ?? 0) + 1}`; dispatch(groundAct.snapshotTaken(name.slice(0, 60))); input.value = ''; tell(`${name} taken`); }}><input name="name" aria-label="Name of the snapshot" placeholder="Name" /><Button size="xs" variant="outline" type="submit">Take</Button></form>
        </details>
      </div>
    </aside>
  );
}
