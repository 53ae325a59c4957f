import { number, type Detail } from '@dyepot/core';
import { NumberControl } from '../kit/NumberControl.tsx';
import type { PartProps } from './partProps.ts';

const controls = [
  ['luminanceNoise', number('Luminance noise', '%', 0, 100, 0, 1, 0)],
  ['colourNoise', number('Colour noise', '%', 0, 100, 0, 1, 0)],
  ['sharpen', number('Sharpening', '%', 0, 150, 0, 1, 0)],
  ['radiusPx', number('Radius', 'px', 0.5, 3, 1, 0.1, 1)],
  ['fine', number('Fine detail', '%', 0, 100, 50, 1, 0)],
  ['edgesOnly', number('Edges only', '%', 0, 100, 20, 1, 0)],
] as const;

/** Noise and capture sharpening. */
export function DetailPart({ frame, ground, set, onMask }: PartProps): React.JSX.Element {
  const { detail } = ground,
    to = (words: string, gesture: string, change: Partial<Detail>): void => set(words, gesture, { detail: { ...detail, ...change } });
  return (
    <>
      {controls.map(([name, p]) => (
        <NumberControl
          key={name}
          parameter={p}
          value={detail[name]}
          {...(name === 'edgesOnly' ? { onHold: onMask } : {})}
          onChange={(v, g) => to(`${p.label} ${v} ${p.unit}`, `${name}-${g}`, { [name]: v })}
        />
      ))}
      <p className="purpose">
        Noise measured in this frame: {(Math.sqrt(frame.noise.slope * 0.18 + frame.noise.floor) / 0.0018).toFixed(1)} % of middle grey, at
        ISO {frame.exif.iso}. The loupe shows the liveliest place at 100 %. While “Edges only” is held, white is where sharpening acts.
      </p>
    </>
  );
}
