import type { FC } from 'react';
import { CdlGrid } from './CdlGrid.tsx';
import { ChromaDisc } from './ChromaDisc.tsx';
import { ContrastGraph } from './ContrastGraph.tsx';
import { CurveControl } from './CurveControl.tsx';
import { ExposureRule } from './ExposureRule.tsx';
import type { FittingProps } from './fitting.ts';
import { GelDisc } from './GelDisc.tsx';
import { GradeRing } from './GradeRing.tsx';
import { HazeView } from './HazeView.tsx';
import { HueBandEditor } from './HueBandEditor.tsx';
import { MixerGrid } from './MixerGrid.tsx';
import { MonoBars } from './MonoBars.tsx';
import { RangeControl } from './RangeControl.tsx';
import { ReliefGraph } from './ReliefGraph.tsx';
import { ResponseGraph } from './ResponseGraph.tsx';
import { TableControl } from './TableControl.tsx';
import { VibranceGraph } from './VibranceGraph.tsx';
import { WarmthPad } from './WarmthPad.tsx';

/** Each step kind's own control. */
export const fittings: Readonly<Record<string, FC<FittingProps>>> = {
  warmth: WarmthPad,
  exposure: ExposureRule,
  contrast: ContrastGraph,
  localContrast: ReliefGraph,
  haze: HazeView,
  gel: GelDisc,
  mixer: MixerGrid,
  neutral: ResponseGraph,
  tableStock: TableControl,
  curve: CurveControl,
  hueBands: HueBandEditor,
  colourRange: RangeControl,
  grade: GradeRing,
  saturation: ChromaDisc,
  vibrance: VibranceGraph,
  mono: MonoBars,
  cdl: CdlGrid,
  tablePrint: TableControl,
};
