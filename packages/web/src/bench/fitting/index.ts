import { lazy, type ComponentType, type LazyExoticComponent } from 'react';
import type { KindName } from '@dyepot/core';
import { loadFilm } from '../../view/withFilm.ts';
import type { FittingProps } from './fitting.ts';

type Fitting = ComponentType<FittingProps>;
/** Where each step kind's own control lies; fetched when it is first in hand. */
const places: Readonly<Record<KindName, () => Promise<Fitting>>> = {
  warmth: () => import('./WarmthPad.tsx').then((m) => m.WarmthPad),
  exposure: () => import('./ExposureRule.tsx').then((m) => m.ExposureRule),
  contrast: () => import('./ContrastGraph.tsx').then((m) => m.ContrastGraph),
  localContrast: () => import('./ReliefGraph.tsx').then((m) => m.ReliefGraph),
  haze: () => import('./HazeView.tsx').then((m) => m.HazeView),
  gel: () => import('./GelDisc.tsx').then((m) => m.GelDisc),
  mixer: () => import('./MixerGrid.tsx').then((m) => m.MixerGrid),
  neutral: () => import('./ResponseGraph.tsx').then((m) => m.ResponseGraph),
  film: () => Promise.all([import('./FilmControl.tsx'), loadFilm()]).then(([m]) => m.FilmControl),
  tableStock: () => import('./TableControl.tsx').then((m) => m.TableControl),
  curve: () => import('./CurveControl.tsx').then((m) => m.CurveControl),
  hueBands: () => import('./HueBandEditor.tsx').then((m) => m.HueBandEditor),
  colourRange: () => import('./RangeControl.tsx').then((m) => m.RangeControl),
  grade: () => import('./GradeRing.tsx').then((m) => m.GradeRing),
  saturation: () => import('./ChromaDisc.tsx').then((m) => m.ChromaDisc),
  vibrance: () => import('./VibranceGraph.tsx').then((m) => m.VibranceGraph),
  mono: () => import('./MonoBars.tsx').then((m) => m.MonoBars),
  apart: () => import('./ApartPoles.tsx').then((m) => m.ApartPoles),
  toning: () => import('./ToningStrip.tsx').then((m) => m.ToningStrip),
  fade: () => import('./FadeGraph.tsx').then((m) => m.FadeGraph),
  wash: () => import('./WashSwatch.tsx').then((m) => m.WashSwatch),
  glow: () => import('./ScatterGraph.tsx').then((m) => m.GlowGraph),
  halation: () => import('./ScatterGraph.tsx').then((m) => m.HalationGraph),
  overprint: () => import('./OverprintControl.tsx').then((m) => m.OverprintControl),
  lowSun: () => import('./LowSunPad.tsx').then((m) => m.LowSunPad),
  leak: () => import('./LeakPad.tsx').then((m) => m.LeakPad),
  vignette: () => import('./VignettePad.tsx').then((m) => m.VignettePad),
  grain: () => import('./GrainGraph.tsx').then((m) => m.GrainGraph),
  border: () => import('./BorderPad.tsx').then((m) => m.BorderPad),
  crispness: () => import('./CrispGraph.tsx').then((m) => m.CrispGraph),
  cdl: () => import('./CdlGrid.tsx').then((m) => m.CdlGrid),
  tablePrint: () => import('./TableControl.tsx').then((m) => m.TableControl),
};

/** Each step kind's own control. */
export const fittings = Object.fromEntries(
  Object.entries(places).map(([kind, load]) => [kind, lazy(async () => ({ default: await load() }))]),
) as unknown as Readonly<Record<KindName, LazyExoticComponent<Fitting>>>;
/** Fetches all of them, so that none is waited for later. */
export const fetchFittings = (): void => {
  for (const load of Object.values(places)) load().catch(() => {});
};
