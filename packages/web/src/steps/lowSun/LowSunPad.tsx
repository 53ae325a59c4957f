import { Fields } from '../../kit/Cell.tsx';
import { fieldsOf, trayWidth as W, type FittingProps } from '../fitting.ts';
import { padFrame, padHeight, PlacePad } from '../PlacePad.tsx';

// small, since the sun may stand well outside
const frame = padFrame(112);

/** Where the sun stands, in or out of the frame, and how far its light reaches. */
export function LowSunPad({ numbers, tools, onSet, onSetAll }: FittingProps): React.JSX.Element {
  const { x = 85, y = 5, reach = 90, light = 0, warmth = 110 } = numbers,
    cx = frame.across(x / 100),
    cy = frame.down(y / 100),
    warm = `oklch(0.86 ${0.02 + warmth / 1800} 75)`;
  return (
    <>
      <PlacePad kind="lowSun" label="Sun" frame={frame} numbers={numbers} tools={tools} onSetAll={onSetAll}>
        <defs>
          <radialGradient id="sun">
            <stop offset="0" stopColor={warm} stopOpacity={Math.min(0.95, 0.15 + light / 110)} />
            <stop offset="0.35" stopColor={warm} stopOpacity={Math.min(0.6, light / 260)} />
            <stop offset="1" stopColor={warm} stopOpacity="0" />
          </radialGradient>
        </defs>
        <circle cx={cx} cy={cy} r={(reach / 100) * frame.width} fill="url(#sun)" />
        <circle cx={cx} cy={cy} r={(reach / 100) * frame.width} fill="none" stroke="#8f8d8a" strokeDasharray="3 4" />
        <rect width={W} height={padHeight} fill="none" />
      </PlacePad>
      <Fields of={fieldsOf('lowSun', numbers, ['light', 'reach', 'warmth', 'haze'])} onSet={onSet} />
      <Fields of={fieldsOf('lowSun', numbers, ['x', 'y'])} onSet={onSet} />
    </>
  );
}
