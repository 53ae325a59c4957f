import type { Groundwork } from '@dyepot/core';
import { useEffect, useState } from 'react';
import { messageOf } from '../api.ts';
import { useBalanceMutation } from './groundApi.ts';
import { complain } from '../kit/notices.tsx';
import type { Line } from './CropOverlay.tsx';
import type { Lining } from './GeometryPart.tsx';
import type { Part } from './groundSlice.ts';
import type { LensShown } from './LensPart.tsx';
import { lineDrawn } from './lineDrawn.ts';
import type { PartProps } from './partProps.ts';

/** What the hand holds over the picture: the picker of a neutral, lines to level by, what is shown of the lens and of sharpening. All is put away with the frame or part. */
export function useTools({
  frame,
  part,
  ground,
  shown,
  pickSize,
  set,
}: Pick<PartProps, 'frame' | 'ground' | 'set'> & { part: Part; shown: Groundwork; pickSize: number }): Pick<
  PartProps,
  'picking' | 'onPicking' | 'lining' | 'onLining' | 'onLensShown' | 'onMask' | 'picked' | 'onPicked'
> & {
  lines: readonly Line[];
  lensShown: LensShown;
  mask: boolean;
  pick: (at: { x: number; y: number }) => Promise<void>;
  lined: (line: Line) => void;
  leave: () => void;
} {
  const [picking, onPicking] = useState(false),
    [picked, onPicked] = useState(''),
    [lining, onLining] = useState<Lining>('off'),
    [lines, setLines] = useState<readonly Line[]>([]),
    [lensShown, onLensShown] = useState<LensShown>('off'),
    [mask, onMask] = useState(false),
    [askBalance] = useBalanceMutation();
  const leave = (): void => {
    onPicking(false);
    onLining('off');
  };
  useEffect(() => {
    leave();
    onPicked('');
    onLensShown('off');
    onMask(false);
  }, [frame.id, part]);
  useEffect(() => setLines([]), [frame.id, part, lining]);
  const pick = async (at: { x: number; y: number }): Promise<void> => {
    try {
      const found = await askBalance({ id: frame.id, at: { ...at, size: pickSize }, groundwork: shown }).unwrap(),
        camera = found.camera!.map((v) => v.toFixed(3)).join(' '),
        multipliers = found.multipliers!.map((v) => v.toFixed(2)).join(' '),
        kelvin = Math.round(found.kelvin);
      set(`Picked ${kelvin} K`, '', { balance: { kind: 'own', kelvin: found.kelvin, tintDuv: found.tintDuv } });
      onPicked(`Averaged ${pickSize} × ${pickSize} px: camera ${camera} → multipliers ${multipliers}, ${kelvin} K`);
      onPicking(false);
    } catch (e) {
      onPicked(messageOf(e));
    }
  };
  const lined = (line: Line): void => {
    const done = lineDrawn({ line, lines, lining, ground, frame });
    if ('wait' in done) return setLines([line]);
    onLining('off');
    if ('message' in done) complain(done.message);
    else set(done.words, '', { geometry: done.geometry });
  };
  return { picking, onPicking, picked, onPicked, lining, onLining, lines, lensShown, onLensShown, mask, onMask, pick, lined, leave };
}
