import type { Groundwork, Plate } from '@dyepot/core';
import type { Frame } from '../types.ts';
import type { Lining } from './GeometryPart.tsx';
import type { LensShown } from './LensPart.tsx';
import type { ReadoutSignal } from '../view/readoutSignal.ts';

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
