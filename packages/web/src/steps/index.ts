import { lazy, type ComponentType, type LazyExoticComponent } from 'react';
import type { KindName } from '@dyepot/core';
import { loadFilm } from '../view/withFilm.ts';
import { curveStarts } from './curve/starts.ts';
import type { Drawn } from './drawing.tsx';
import WarmthDrawing from './warmth/drawing.tsx';
import NeutralDrawing from './neutral/drawing.tsx';
import CurveDrawing from './curve/drawing.tsx';
import GradeDrawing from './grade/drawing.tsx';
import SaturationDrawing from './saturation/drawing.tsx';
import type { FittingProps, Start } from './fitting.ts';
import { monoStarts } from './mono/starts.ts';
import { neutralStarts } from './neutral/starts.ts';
import { toningStarts } from './toning/starts.ts';

type Fitting = ComponentType<FittingProps>;
/** A step kind on the page: its own control, fetched when first wanted, its small drawing, and where it can be begun from. */
interface StepFace {
  control: () => Promise<Fitting>;
  drawing: ComponentType<Drawn>;
  starts?: readonly Start[];
}
/** Every step kind; the type checker holds that none is missing. */
export const stepFaces: Readonly<Record<KindName, StepFace>> = {
  warmth: { control: () => import('./warmth/WarmthPad.tsx').then((m) => m.WarmthPad), drawing: WarmthDrawing },
  exposure: {
    control: () => import('./exposure/ExposureRule.tsx').then((m) => m.ExposureRule),
    drawing: lazy(() => import('./exposure/drawing.tsx')),
  },
  contrast: {
    control: () => import('./contrast/ContrastGraph.tsx').then((m) => m.ContrastGraph),
    drawing: lazy(() => import('./contrast/drawing.tsx')),
  },
  localContrast: {
    control: () => import('./localContrast/ReliefGraph.tsx').then((m) => m.ReliefGraph),
    drawing: lazy(() => import('./localContrast/drawing.tsx')),
  },
  haze: { control: () => import('./haze/HazeView.tsx').then((m) => m.HazeView), drawing: lazy(() => import('./haze/drawing.tsx')) },
  gel: { control: () => import('./gel/GelDisc.tsx').then((m) => m.GelDisc), drawing: lazy(() => import('./gel/drawing.tsx')) },
  mixer: { control: () => import('./mixer/MixerGrid.tsx').then((m) => m.MixerGrid), drawing: lazy(() => import('./mixer/drawing.tsx')) },
  neutral: {
    control: () => import('./neutral/ResponseGraph.tsx').then((m) => m.ResponseGraph),
    drawing: NeutralDrawing,
    starts: neutralStarts,
  },
  film: {
    control: () => Promise.all([import('./film/FilmControl.tsx'), loadFilm()]).then(([m]) => m.FilmControl),
    drawing: lazy(() => import('./film/drawing.tsx')),
  },
  tableStock: {
    control: () => import('./lookup/TableControl.tsx').then((m) => m.TableControl),
    drawing: lazy(() => import('./lookup/drawing.tsx')),
  },
  curve: {
    control: () => import('./curve/CurveControl.tsx').then((m) => m.CurveControl),
    drawing: CurveDrawing,
    starts: curveStarts,
  },
  hueBands: {
    control: () => import('./hueBands/HueBandEditor.tsx').then((m) => m.HueBandEditor),
    drawing: lazy(() => import('./hueBands/drawing.tsx')),
  },
  colourRange: {
    control: () => import('./colourRange/RangeControl.tsx').then((m) => m.RangeControl),
    drawing: lazy(() => import('./colourRange/drawing.tsx')),
  },
  grade: { control: () => import('./grade/GradeRing.tsx').then((m) => m.GradeRing), drawing: GradeDrawing },
  saturation: {
    control: () => import('./saturation/ChromaDisc.tsx').then((m) => m.ChromaDisc),
    drawing: SaturationDrawing,
  },
  vibrance: {
    control: () => import('./vibrance/VibranceGraph.tsx').then((m) => m.VibranceGraph),
    drawing: lazy(() => import('./vibrance/drawing.tsx')),
  },
  mono: {
    control: () => import('./mono/MonoBars.tsx').then((m) => m.MonoBars),
    drawing: lazy(() => import('./mono/drawing.tsx')),
    starts: monoStarts,
  },
  apart: { control: () => import('./apart/ApartPoles.tsx').then((m) => m.ApartPoles), drawing: lazy(() => import('./apart/drawing.tsx')) },
  toning: {
    control: () => import('./toning/ToningStrip.tsx').then((m) => m.ToningStrip),
    drawing: lazy(() => import('./toning/drawing.tsx')),
    starts: toningStarts,
  },
  fade: { control: () => import('./fade/FadeGraph.tsx').then((m) => m.FadeGraph), drawing: lazy(() => import('./fade/drawing.tsx')) },
  wash: { control: () => import('./wash/WashSwatch.tsx').then((m) => m.WashSwatch), drawing: lazy(() => import('./wash/drawing.tsx')) },
  glow: {
    control: () => import('./scatter/ScatterGraph.tsx').then((m) => m.GlowGraph),
    drawing: lazy(() => import('./scatter/drawing.tsx')),
  },
  halation: {
    control: () => import('./scatter/ScatterGraph.tsx').then((m) => m.HalationGraph),
    drawing: lazy(() => import('./scatter/drawing.tsx')),
  },
  overprint: {
    control: () => import('./overprint/OverprintControl.tsx').then((m) => m.OverprintControl),
    drawing: lazy(() => import('./overprint/drawing.tsx')),
  },
  lowSun: { control: () => import('./lowSun/LowSunPad.tsx').then((m) => m.LowSunPad), drawing: lazy(() => import('./lowSun/drawing.tsx')) },
  leak: { control: () => import('./leak/LeakPad.tsx').then((m) => m.LeakPad), drawing: lazy(() => import('./leak/drawing.tsx')) },
  vignette: {
    control: () => import('./vignette/VignettePad.tsx').then((m) => m.VignettePad),
    drawing: lazy(() => import('./vignette/drawing.tsx')),
  },
  grain: { control: () => import('./grain/GrainGraph.tsx').then((m) => m.GrainGraph), drawing: lazy(() => import('./grain/drawing.tsx')) },
  border: { control: () => import('./border/BorderPad.tsx').then((m) => m.BorderPad), drawing: lazy(() => import('./border/drawing.tsx')) },
  crispness: {
    control: () => import('./crispness/CrispGraph.tsx').then((m) => m.CrispGraph),
    drawing: lazy(() => import('./crispness/drawing.tsx')),
  },
  cdl: { control: () => import('./cdl/CdlGrid.tsx').then((m) => m.CdlGrid), drawing: lazy(() => import('./cdl/drawing.tsx')) },
  tablePrint: {
    control: () => import('./lookup/TableControl.tsx').then((m) => m.TableControl),
    drawing: lazy(() => import('./lookup/drawing.tsx')),
  },
};

/** Each step kind's own control. */
export const controls = Object.fromEntries(
  Object.entries(stepFaces).map(([kind, { control }]) => [kind, lazy(async () => ({ default: await control() }))]),
) as unknown as Readonly<Record<KindName, LazyExoticComponent<Fitting>>>;
/** Fetches all controls and the small drawings, which lie in one file, so that none is waited for later, or missed when the server is away. */
export const fetchControls = (): void => {
  import('./gel/drawing.tsx').catch(() => {});
  for (const { control } of Object.values(stepFaces)) control().catch(() => {});
};
