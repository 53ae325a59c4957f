import { Crosshair } from 'lucide-react';
import { Handle, type Axis } from '../kit/Handle.tsx';
import { declared, trayWidth as W, type FittingProps } from './fitting.ts';

export const padHeight = 168;
/** The frame drawn on a pad: its box, and from shares of it to the pad's units and back. */
export interface PadFrame {
  x: number;
  y: number;
  width: number;
  height: number;
  across: (share: number) => number;
  down: (share: number) => number;
}
/** A frame of two by three in the middle of the pad, so large. */
export function padFrame(width: number): PadFrame {
  const height = (width * 2) / 3,
    x = (W - width) / 2,
    y = (padHeight - height) / 2;
  return { x, y, width, height, across: (share) => x + share * width, down: (share) => y + share * height };
}

/** A frame with a place on it that is dragged, or put on the picture itself. */
export function PlacePad({
  kind,
  label,
  frame,
  numbers,
  tools,
  onSetAll,
  children,
}: Pick<FittingProps, 'numbers' | 'tools' | 'onSetAll'> & {
  kind: string;
  label: string;
  frame: PadFrame;
  children: React.ReactNode;
}): React.JSX.Element {
  const axis = (name: 'x' | 'y'): Axis => ({
      name,
      parameter: declared(kind, name),
      value: numbers[name]!,
      at: (place) => (100 * (place - (name === 'x' ? frame.x : frame.y))) / (name === 'x' ? frame.width : frame.height),
    }),
    placing = tools.tool === 'place';
  return (
    <>
      <svg className="drawing" viewBox={`0 0 ${W} ${padHeight}`} role="group" aria-label={`${label} on the frame`}>
        <rect width={W} height={padHeight} fill="#1f1f1f" />
        <rect x={frame.x} y={frame.y} width={frame.width} height={frame.height} fill="#4c4c4c" />
        {children}
        <rect x={frame.x} y={frame.y} width={frame.width} height={frame.height} fill="none" stroke="#8f8d8a" />
        <Handle
          x={frame.across(numbers['x']! / 100)}
          y={frame.down(numbers['y']! / 100)}
          label={`Place of the ${label.toLowerCase()}, on the frame`}
          along={axis('x')}
          up={axis('y')}
          onSet={(values, gesture) => onSetAll(values, `${label}: place`, gesture)}
        />
      </svg>
      <button
        type="button"
        className={`tool ${placing ? 'on' : ''}`}
        aria-pressed={placing}
        onClick={() => tools.onTool(placing ? 'off' : 'place')}
      >
        <Crosshair size={13} /> {placing ? 'Click on the picture' : 'Put on the picture'}
      </button>
    </>
  );
}
